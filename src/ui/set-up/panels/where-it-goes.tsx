'use client';

import { useState } from 'react';
import { DESTINATIONS } from '@/core/destination';
import { storeText } from '@/core/final-store';
import type { StoreId } from '@/core/ids';
import { problemOf } from '@/core/problem';
import { trackRates } from '@/core/rate';
import type { Rig } from '@/core/rig';
import { AFTER_STOP } from '@/core/rig-choices';
import { roomFor, roomText } from '@/core/room';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { useTold } from '../../shared/use-told';
import { Choice } from '../choices';
import { useRoomLeft } from '../room';
import { useSetUp } from '../set-up-context';
import { useFinalStore, useStores } from '../stores';

const NEW = 'new';

/** Where a take is kept while it is recorded, and where finished files go in the end. */
export function WhereItGoes() {
  const { session } = useRoom();
  const { rig, changeRig } = useSetUp();
  const room = useRoomLeft();
  const { stores, add, forget } = useStores();
  const told = useTold();
  const store = useFinalStore();
  const states = useSourceStates(session);
  const [adding, setAdding] = useState(false);
  const { final } = rig.stores;
  const setFinal = (next: Rig['stores']['final']) =>
    changeRig((old) => ({ ...old, stores: { ...old.stores, final: next } }));
  const forgetIt = async (id: StoreId) => {
    if (await told(forget(id))) setFinal('studio');
  };
  const bytesPerSecond = (trackRates(rig, states.screen?.size, states.camera?.size).total * 1000) / 8;
  return (
    <>
      <Choice
        name="Copies of finished files"
        value={adding ? NEW : final}
        options={[
          { value: 'studio', label: 'None: the studio’s disk keeps them' },
          ...(stores ?? []).map(({ id, name }) => ({ value: id as string, label: `To “${name}”` })),
          ...(store === 'gone'
            ? [{ value: final as string, label: 'A store that is not known any more' }]
            : []),
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
                ? `, room for ${roomText(roomFor(store.freeBytes, bytesPerSecond))} of this rig`
                : ''}
              . Each copy is compared by its hash; nothing is written over.{' '}
              <button type="button" className="link" onClick={() => void forgetIt(store.id)}>
                Forget this folder; what lies there stays
              </button>
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
      <div className="choice">
        <span className="lab">While it is recorded</span>
        <p>
          {room.browser
            ? `This browser’s storage: room for ${roomText(room.browser)} of this rig.`
            : 'This browser’s storage.'}{' '}
          {room.server ? `Then the studio’s disk: ${roomText(room.server)}.` : 'Then the studio’s disk.'}
        </p>
      </div>
    </>
  );
}

/** A folder of the studio's machine; it is tried before it is taken. */
function NewStore({ onAdd }: { onAdd: (name: string, folder: string) => Promise<void> }) {
  const [name, setName] = useState('');
  const [folder, setFolder] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [trying, setTrying] = useState(false);
  const submit = async () => {
    setTrying(true);
    setProblem(null);
    try {
      await onAdd(name, folder);
    } catch (error) {
      const { message, hint } = problemOf(error);
      setProblem([message, hint].filter(Boolean).join(' '));
    } finally {
      setTrying(false);
    }
  };
  return (
    <form
      className="choice wide new-store"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <label className="lab" htmlFor="store-name">
        Name
      </label>
      <label className="lab" htmlFor="store-folder">
        Folder on the studio’s machine
      </label>
      <input
        id="store-name"
        className="text-field"
        value={name}
        maxLength={60}
        required
        onChange={({ target }) => setName(target.value)}
      />
      <input
        id="store-folder"
        className="text-field"
        placeholder="/home/…"
        value={folder}
        maxLength={1000}
        required
        aria-invalid={problem !== null}
        onChange={({ target }) => setFolder(target.value)}
      />
      <button type="submit" className="act" disabled={trying}>
        {trying ? 'Trying it …' : 'Try it and take it'}
      </button>
      {problem && (
        <p className="small amber" role="alert">
          {problem}
        </p>
      )}
    </form>
  );
}

/** What comes after the stop, above all when nobody sits there. */
export function AfterStop() {
  const { rig, changeRig } = useSetUp();
  return (
    <>
      <Choice
        name="After the stop comes"
        value={rig.afterStop}
        options={Object.entries(AFTER_STOP).map(([value, label]) => ({ value, label }))}
        onChange={(value) =>
          changeRig((old) => ({
            ...old,
            afterStop: value as Rig['afterStop'],
            handOverTo: value === 'hand-over' ? (old.handOverTo ?? DESTINATIONS[0]?.id ?? null) : null,
          }))
        }
        path="afterStop"
      />
      {rig.afterStop === 'hand-over' && (
        <Choice
          name="It is handed over to"
          value={rig.handOverTo ?? ''}
          options={DESTINATIONS.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(handOverTo) => changeRig((old) => ({ ...old, handOverTo }))}
          note="A parcel of the whole take is made as soon as it has arrived."
        />
      )}
    </>
  );
}
