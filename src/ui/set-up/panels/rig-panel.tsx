'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { freeName, NamedRigView } from '@/core/named-rig';
import { fileName } from '@/core/names';
import { changedSince, PURPOSES, propose, restored } from '@/core/purposes';
import { type Purpose, PurposeKind } from '@/core/rig';
import { readRigFile, rigFileText } from '@/core/rig-file';
import { useRoom } from '../../lesson/lesson-room';
import { fetchJson } from '../../shared/fetch-json';
import { FileButton } from '../../shared/file-button';
import { PageLink } from '../../shared/page-link';
import { saveFile } from '../../shared/save-file';
import { useTold } from '../../shared/use-told';
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
      <h3 id="from-purpose">Begin from what it is for</h3>
      <div className="purposes">
        {PurposeKind.options.map((kind) => (
          <button
            key={kind}
            type="button"
            className={rig.purpose?.kind === kind ? 'purpose on' : 'purpose'}
            aria-pressed={rig.purpose?.kind === kind}
            onClick={() => begin({ kind, machine })}
          >
            <b>{PURPOSES[kind].name}</b>
            <span className="small mute">{PURPOSES[kind].what}</span>
          </button>
        ))}
      </div>
      <div className="row">
        {(['strong', 'weak'] as const).map((each) => (
          <label key={each} className={machine === each ? 'pebble on' : 'pebble'}>
            <input
              type="radio"
              name="machine"
              className="sr-only"
              checked={machine === each}
              onChange={() => begin({ kind: rig.purpose?.kind ?? 'lesson', machine: each })}
            />
            {each === 'strong' ? 'This machine has power to spare' : 'This machine is weak'}
          </label>
        ))}
      </div>
      {rig.purpose && (
        <p className="small mute">
          {changed.length === 0
            ? 'Everything is as proposed; each value says why.'
            : `Changed since: ${changed.map(({ name }) => name.toLowerCase()).join(', ')}. `}
          {changed.map(({ path, name }) => (
            <button
              key={path}
              type="button"
              className="act quiet"
              onClick={() => changeRig((old) => restored(old, path))}
            >
              {name} as proposed
            </button>
          ))}
          {changed.length > 1 && (
            <button type="button" className="act quiet" onClick={() => changeRig((old) => restored(old))}>
              All as proposed
            </button>
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
      <h3 id="named-rigs">Rigs with a name</h3>
      <ul className="rig-list">
        {all.map((each) => (
          <li key={each.id}>
            <span className="grow">
              {each.name} {each.isDefault && <span className="small mute">new lessons begin with it</span>}
            </span>
            <button type="button" className="act quiet" onClick={() => changeRig(() => each.rig)}>
              Use
            </button>
            <PageLink className="act quiet" href={`/rigs?a=${lesson.id}&b=${each.id}`}>
              Compare
            </PageLink>
          </li>
        ))}
        {rigs.isSuccess && all.length === 0 && (
          <li className="mute">None yet. A name keeps these choices for other lessons.</li>
        )}
      </ul>
      <div className="row">
        <input
          className="text-field grow"
          aria-label="Name for this rig"
          placeholder={wanted}
          value={name}
          maxLength={100}
          onChange={({ target }) => setName(target.value)}
        />
        <button type="button" className="act" onClick={() => void save()}>
          {known ? 'Save over it' : 'Save these choices'}
        </button>
      </div>
      <div className="row">
        <PageLink className="act quiet" href="/rigs">
          All rigs
        </PageLink>
        <button
          type="button"
          className="act quiet"
          onClick={() => saveFile(fileName(wanted, 'json'), rigFileText(wanted, rig))}
        >
          Save as a file
        </button>
        <FileButton
          label="Take from a file"
          field="File of a rig"
          accept="application/json,.json"
          className="act quiet"
          onFile={add}
        />
      </div>
    </section>
  );
}
