'use client';

import { Button } from 'antd';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { RigId } from '@/core/base/ids';
import { fileName } from '@/core/base/names';
import { freeName, type NamedRigView } from '@/core/rig/named-rig';
import { PURPOSES } from '@/core/rig/purposes';
import { readRigFile, rigFileText } from '@/core/rig/rig-file';
import { EditableTitle } from '../fields/editable-title';
import { FileButton } from '../fields/file-button';
import { ButtonLink } from '../page/button-link';
import { fetchJson } from '../wire/fetch-json';
import { saveFile } from '../wire/save-file';
import { useTold } from '../wire/use-told';
import { type Compared, CompareRigs, rigSentence } from './compare-rigs';

/** The saved rigs: rename, copy, compare, set the default, export and import. */
export function RigsPage({
  rigs,
  left,
  right,
}: {
  rigs: NamedRigView[];
  left: Compared | null;
  right: Compared | null;
}) {
  const router = useRouter();
  const told = useTold();
  const [gone, setGone] = useState<NamedRigView | null>(null);
  const names = rigs.map(({ name }) => name);
  const act = (work: Promise<unknown>) => told(work.then(() => router.refresh()));
  const change = (id: RigId, body: object) => act(fetchJson('PATCH', `/api/rigs/${id}`, body));
  const add = (chosen: File) =>
    act(
      chosen.text().then((text) => {
        const read = readRigFile(text, chosen.name);
        return fetchJson('POST', '/api/rigs', { ...read, name: freeName(read.name, names) });
      }),
    );
  return (
    <main>
      <div className="title row">
        <p className="mute grow">
          Each lesson has its own copy of a rig: changes here change no lesson. Without a default, a new
          lesson starts from “{PURPOSES.lesson.name}”.
        </p>
        <FileButton label="Import a rig" field="Rig file" accept="application/json,.json" onFile={add} />
        <Button href="/api/rigs/schema" download="rig-schema.json">
          Download the file schema
        </Button>
      </div>
      {gone && (
        <p className="panel row" role="status">
          “{gone.name}” was deleted.
          <Button
            onClick={() => {
              setGone(null);
              void change(gone.id, { deleted: false });
            }}
          >
            Undo
          </Button>
        </p>
      )}
      {rigs.length === 0 && (
        <p className="panel mute">
          No rig is saved yet. Save one under <b>Rig</b> in the set-up of a lesson.
        </p>
      )}
      <ul className="stack">
        {rigs.map((rig) => (
          <RigRow
            key={rig.id}
            rig={rig}
            beside={left && left.id !== rig.id ? left : null}
            onChange={(part) => void change(rig.id, part)}
            onCopy={() =>
              void act(fetchJson('POST', '/api/rigs', { name: freeName(rig.name, names), rig: rig.rig }))
            }
            onDelete={() => {
              setGone(rig);
              void change(rig.id, { deleted: true });
            }}
          />
        ))}
      </ul>
      {left && !right && <p className="panel mute">Choose a second rig to compare “{left.name}” with.</p>}
      {left && right && <CompareRigs left={left} right={right} />}
    </main>
  );
}

/** One saved rig and what can be done with it. @param beside the rig that it would be compared with */
function RigRow(props: {
  rig: NamedRigView;
  beside: Compared | null;
  onChange: (part: { name?: string; isDefault?: boolean }) => void;
  onCopy: () => void;
  onDelete: () => void;
}) {
  const { rig, beside, onChange } = props;
  const { id, name, isDefault } = rig;
  const compared = new URLSearchParams(beside ? { a: beside.id, b: id } : { a: id });
  return (
    <li className="panel row">
      <div className="grow">
        <span className="row">
          <EditableTitle
            heading="h2"
            of={`the rig ${name}`}
            title={name}
            onChange={(next) => onChange({ name: next })}
          />
        </span>
        <p className="mute">{rigSentence(rig.rig)}</p>
      </div>
      <div className="row">
        <Button aria-pressed={isDefault} onClick={() => onChange({ isDefault: !isDefault })}>
          {isDefault ? 'Default for new lessons' : 'Use for new lessons'}
        </Button>
        <ButtonLink href={`/rigs?${compared}`}>Compare{beside ? ` with ${beside.name}` : ''}</ButtonLink>
        <Button type="text" onClick={props.onCopy}>
          Copy
        </Button>
        <Button type="text" onClick={() => saveFile(fileName(name, 'json'), rigFileText(name, rig.rig))}>
          Export
        </Button>
        <Button type="text" onClick={props.onDelete}>
          Delete
        </Button>
      </div>
    </li>
  );
}
