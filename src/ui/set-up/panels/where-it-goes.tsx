'use client';

import { Button, Form, Input } from 'antd';
import { useState } from 'react';
import { roomFor, roomText } from '@/core/base/free-space';
import type { StoreId } from '@/core/base/ids';
import { problemOf } from '@/core/base/problem';
import { DESTINATIONS } from '@/core/destination/destination';
import { storeText } from '@/core/rig/final-store';
import type { Rig } from '@/core/rig/rig';
import { AFTER_STOP, fieldNames } from '@/core/rig/rig-choices';
import { Choice } from '../../fields/choices';
import { useTold } from '../../wire/use-told';
import { useRoomLeft } from '../free-space';
import { RigSelect } from '../rig-field';
import { useSetUp } from '../set-up-context';
import { useFinalStore, useStores } from '../stores';

const NEW = 'new';

/** Where finished files are copied. */
export function FinalStore() {
  const { rig, changeRig } = useSetUp();
  const { stores, add, forget } = useStores();
  const told = useTold();
  const store = useFinalStore();
  const [adding, setAdding] = useState(false);
  const { name, does: effect } = fieldNames('stores');
  const { final } = rig.stores;
  const setFinal = (next: Rig['stores']['final']) =>
    changeRig((old) => ({ ...old, stores: { ...old.stores, final: next } }));
  const forgetIt = async (id: StoreId) => {
    if (await told(forget(id))) setFinal('studio');
  };
  const bytesPerSecond = useSetUp().flow.file.value / 8;
  return (
    <>
      <Choice
        {...{ name, effect }}
        path="stores"
        value={adding ? NEW : final}
        options={[
          { value: 'studio', label: 'None (studio’s disk only)' },
          ...(stores ?? []).map(({ id, name }) => ({ value: id as string, label: `To “${name}”` })),
          ...(store === 'gone' ? [{ value: final as string, label: 'A store that was removed' }] : []),
          { value: NEW, label: 'To another folder …' },
        ]}
        onChange={(value) => {
          setAdding(value === NEW);
          const known = stores?.find(({ id }) => id === value);
          if (value === 'studio') setFinal('studio');
          else if (known) setFinal(known.id);
        }}
        note={
          store && store !== 'gone' ? (
            <>
              {store.folder}: {storeText(store)}
              {store.freeBytes !== null && bytesPerSecond > 0
                ? `, about ${roomText(roomFor(store.freeBytes, bytesPerSecond))} of recording left`
                : ''}
              . Each copy is verified by its hash; no file is overwritten.{' '}
              <Button type="link" onClick={() => void forgetIt(store.id)}>
                Remove folder (its files stay)
              </Button>
            </>
          ) : undefined
        }
      />
      {adding && (
        <NewStore
          onAdd={async (name, folder) => {
            setFinal((await add({ name, folder })).id);
            setAdding(false);
          }}
        />
      )}
    </>
  );
}

/** Where a take is stored while it is recorded, and how long there is room. */
export function RoomLeft() {
  const room = useRoomLeft(useSetUp().flow.file.value / 8);
  return (
    <div className="choice">
      <span className="lab">While recording</span>
      <p>
        {room.browser
          ? `This browser’s storage: about ${roomText(room.browser)} of recording left.`
          : 'This browser’s storage.'}{' '}
        {room.server ? `Studio’s disk: about ${roomText(room.server)} left.` : 'Then the studio’s disk.'}
      </p>
    </div>
  );
}

type StoreFields = { name: string; folder: string };

/** A folder on the studio's machine; it is tested before it is saved. */
function NewStore({ onAdd }: { onAdd: (name: string, folder: string) => Promise<void> }) {
  const [form] = Form.useForm<StoreFields>();
  const [testing, setTesting] = useState(false);
  const submit = async ({ name, folder }: StoreFields) => {
    setTesting(true);
    try {
      await onAdd(name, folder);
    } catch (error) {
      const { message, hint, field } = problemOf(error);
      const errors = [[message, hint].filter(Boolean).join(' ')];
      form.setFields([{ name: field === 'name' ? 'name' : 'folder', errors }]);
    } finally {
      setTesting(false);
    }
  };
  return (
    <Form className="choice wide" form={form} layout="vertical" requiredMark={false} onFinish={submit}>
      <div className="grid">
        <Form.Item name="name" label="Name" rules={[{ required: true, message: 'Enter a name.' }]}>
          <Input maxLength={60} />
        </Form.Item>
        <Form.Item
          name="folder"
          label="Folder on the studio’s machine"
          rules={[{ required: true, message: 'Enter a folder.' }]}
        >
          <Input maxLength={1000} placeholder="/home/…" />
        </Form.Item>
      </div>
      <Button htmlType="submit" loading={testing}>
        Test and save
      </Button>
    </Form>
  );
}

/** What happens after stopping, above all when nobody is there. */
export function AfterStop() {
  const { rig, changeRig } = useSetUp();
  return (
    <>
      <RigSelect
        path="afterStop"
        options={AFTER.map((value) => ({ value, label: AFTER_STOP[value] }))}
        onChange={(afterStop) =>
          changeRig((old) => ({
            ...old,
            afterStop,
            handOverTo: afterStop === 'hand-over' ? (old.handOverTo ?? DESTINATIONS[0]?.id ?? null) : null,
          }))
        }
      />
      {rig.afterStop === 'hand-over' && (
        <RigSelect
          path="handOverTo"
          options={DESTINATIONS.map(({ id, name }) => ({ value: id, label: name }))}
          note="A parcel of the whole take is made as soon as it has arrived."
        />
      )}
    </>
  );
}

const AFTER = Object.keys(AFTER_STOP) as Rig['afterStop'][];
