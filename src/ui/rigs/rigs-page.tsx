'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { RigId } from '@/core/ids';
import { freeName, type NamedRigView } from '@/core/named-rig';
import { fileName } from '@/core/names';
import { readRigFile, rigFileText } from '@/core/rig-file';
import { EditableTitle } from '../shared/editable-title';
import { fetchJson } from '../shared/fetch-json';
import { FileButton } from '../shared/file-button';
import { PageLink } from '../shared/page-link';
import { saveFile } from '../shared/save-file';
import { useTold } from '../shared/use-told';
import { type Compared, CompareRigs, rigSentence } from './compare-rigs';

/** All rigs with a name: rename, copy, compare, make the default, save and read as files. */
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
  const act = (deed: Promise<unknown>) => told(deed.then(() => router.refresh()));
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
      <div className="title">
        <p className="mute grow">
          A lesson keeps a copy of its rig: what is changed here changes no lesson. Without a default, a new
          lesson begins with what was used last.
        </p>
        <FileButton
          label="Take from a file"
          field="File of a rig"
          accept="application/json,.json"
          onFile={add}
        />
        <a className="act" href="/api/rigs/schema" download="rig-schema.json">
          Schema of the files
        </a>
      </div>
      {gone && (
        <p className="panel row" role="status">
          “{gone.name}” is deleted.
          <button
            type="button"
            className="act"
            onClick={() => {
              setGone(null);
              void change(gone.id, { deleted: false });
            }}
          >
            Undo
          </button>
        </p>
      )}
      {rigs.length === 0 && (
        <p className="panel mute">
          No rig has a name yet. In a lesson’s set-up, under <b>Rig</b>, its choices can be given one.
        </p>
      )}
      <ul className="rigs">
        {rigs.map(({ id, name, rig, isDefault }) => (
          <li key={id} className="panel">
            <div className="grow">
              <span className="row">
                <EditableTitle
                  heading="h2"
                  of={`the rig ${name}`}
                  title={name}
                  onChange={(next) => void change(id, { name: next })}
                />
              </span>
              <p className="mute">{rigSentence(rig)}</p>
            </div>
            <div className="row">
              <button
                type="button"
                className="act"
                aria-pressed={isDefault}
                onClick={() => void change(id, { isDefault: !isDefault })}
              >
                {isDefault ? 'New lessons begin with it' : 'Begin new lessons with it'}
              </button>
              <PageLink
                className="act"
                href={`/rigs?${new URLSearchParams(left && left.id !== id ? { a: left.id, b: id } : { a: id })}`}
              >
                Compare{left && left.id !== id ? ` with ${left.name}` : ''}
              </PageLink>
              <button
                type="button"
                className="act quiet"
                onClick={() => void act(fetchJson('POST', '/api/rigs', { name: freeName(name, names), rig }))}
              >
                Copy
              </button>
              <button
                type="button"
                className="act quiet"
                onClick={() => saveFile(fileName(name, 'json'), rigFileText(name, rig))}
              >
                Save as a file
              </button>
              <button
                type="button"
                className="act quiet"
                onClick={() => {
                  setGone({ id, name, rig, isDefault });
                  void change(id, { deleted: true });
                }}
              >
                Delete
              </button>
            </div>
          </li>
        ))}
      </ul>
      {left && !right && <p className="panel mute">Choose a second rig to compare “{left.name}” with.</p>}
      {left && right && <CompareRigs left={left} right={right} />}
    </main>
  );
}
