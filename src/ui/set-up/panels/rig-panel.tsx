'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Input, Radio, Segmented, Tag } from 'antd';
import { useState } from 'react';
import { fileName } from '@/core/base/names';
import { freeName, NamedRigView } from '@/core/rig/named-rig';
import { changedSince, PURPOSES, propose, restored } from '@/core/rig/purposes';
import { type Purpose, PurposeKind, type Rig } from '@/core/rig/rig';
import { readRigFile, rigFileText } from '@/core/rig/rig-file';
import { FileButton } from '../../fields/file-button';
import { useRoom } from '../../lesson/lesson-room';
import { ButtonLink } from '../../page/button-link';
import { fetchJson } from '../../wire/fetch-json';
import { saveFile } from '../../wire/save-file';
import { useTold } from '../../wire/use-told';
import { useSetUp } from '../set-up-context';

/** Beginning from a purpose, and rigs with names. */
export function RigPanel() {
  return (
    <>
      <FromPurpose />
      <NamedRigs />
    </>
  );
}

function FromPurpose() {
  const { rig, changeRig } = useSetUp();
  const machine = rig.purpose?.machine ?? 'strong';
  const begin = (purpose: Purpose) => changeRig((old) => propose(purpose, old).rig);
  const changed = changedSince(rig);
  return (
    <section className="choice" aria-labelledby="from-purpose">
      <h3 id="from-purpose">Start from a purpose</h3>
      <Radio.Group
        className="options purposes"
        aria-labelledby="from-purpose"
        value={rig.purpose?.kind}
        onChange={({ target }) => begin({ kind: target.value, machine })}
      >
        {PurposeKind.options.map((kind) => (
          <Radio key={kind} value={kind} className={rig.purpose?.kind === kind ? 'on' : ''}>
            <b>{PURPOSES[kind].name}</b>
            <span className="small mute">{PURPOSES[kind].what}</span>
          </Radio>
        ))}
      </Radio.Group>
      <div className="row">
        <Segmented<Purpose['machine']>
          className="pebbles"
          aria-label="Machine"
          value={machine}
          options={[
            { value: 'strong', label: 'For a fast machine' },
            { value: 'weak', label: 'For a slow machine' },
          ]}
          onChange={(each) => begin({ kind: rig.purpose?.kind ?? 'lesson', machine: each })}
        />
      </div>
      {rig.purpose && (
        <p className="small mute">
          {changed.length === 0
            ? 'All values are as proposed, each with its reason.'
            : `Changed since: ${changed.map(({ name }) => name.toLowerCase()).join(', ')}. `}
          {changed.map(({ path, name }) => (
            <Button key={path} type="text" onClick={() => changeRig((old) => restored(old, path))}>
              {name} as proposed
            </Button>
          ))}
          {changed.length > 1 && (
            <Button type="text" onClick={() => changeRig((old) => restored(old))}>
              All as proposed
            </Button>
          )}
        </p>
      )}
    </section>
  );
}

const RIGS = ['rigs'];

function NamedRigs() {
  const { lesson } = useRoom();
  const { rig, changeRig } = useSetUp();
  const told = useTold();
  const client = useQueryClient();
  const rigs = useQuery({
    queryKey: RIGS,
    queryFn: async () => NamedRigView.array().parse(await fetchJson<unknown>('GET', '/api/rigs')),
  });
  const all = rigs.data ?? [];
  const [name, setName] = useState('');
  const wanted = name.trim() || (rig.purpose ? PURPOSES[rig.purpose.kind].name : lesson.title);
  const known = all.find((each) => each.name.toLowerCase() === name.trim().toLowerCase());
  const refresh = () => client.invalidateQueries({ queryKey: RIGS });
  const save = () => {
    const saved = known
      ? fetchJson('PATCH', `/api/rigs/${known.id}`, { rig })
      : fetchJson('POST', '/api/rigs', {
          name: freeName(
            wanted,
            all.map((each) => each.name),
          ),
          rig,
        });
    return told(saved.then(() => setName('')).then(refresh));
  };
  const add = (chosen: File) =>
    told(
      chosen.text().then(async (text) => {
        const read = readRigFile(text, chosen.name);
        await fetchJson('POST', '/api/rigs', {
          ...read,
          name: freeName(
            read.name,
            all.map((each) => each.name),
          ),
        });
        changeRig(() => read.rig);
        await refresh();
      }),
    );
  return (
    <section className="choice" aria-labelledby="named-rigs">
      <h3 id="named-rigs">Saved rigs</h3>
      <RigList rigs={rigs.data} onUse={(chosen) => changeRig(() => chosen)} />
      <div className="row">
        <Input
          className="grow"
          aria-label="Name for this rig"
          placeholder={wanted}
          value={name}
          maxLength={100}
          onChange={({ target }) => setName(target.value)}
        />
        <Button onClick={() => void save()}>{known ? 'Replace rig' : 'Save rig'}</Button>
      </div>
      <div className="row">
        <ButtonLink type="text" href="/rigs">
          All rigs
        </ButtonLink>
        <Button type="text" onClick={() => saveFile(fileName(wanted, 'json'), rigFileText(wanted, rig))}>
          Export this rig
        </Button>
        <FileButton
          label="Import a rig"
          field="Rig file"
          accept="application/json,.json"
          type="text"
          onFile={add}
        />
      </div>
    </section>
  );
}

function RigList({ rigs, onUse }: { rigs: NamedRigView[] | undefined; onUse: (rig: Rig) => void }) {
  const { lesson } = useRoom();
  return (
    <ul className="list">
      {rigs?.map((each) => (
        <li key={each.id}>
          <span className="grow">
            {each.name} {each.isDefault && <Tag>default for new lessons</Tag>}
          </span>
          <Button type="text" onClick={() => onUse(each.rig)}>
            Use
          </Button>
          <ButtonLink type="text" href={`/rigs?a=${lesson.id}&b=${each.id}`}>
            Compare
          </ButtonLink>
        </li>
      ))}
      {rigs?.length === 0 && (
        <li className="mute">None yet. Save these choices to use them in other lessons.</li>
      )}
    </ul>
  );
}
