'use client';

import { Button, Collapse } from 'antd';
import { useEffect, useState } from 'react';
import { bytesText } from '@/core/base/figures';
import { CONTAINERS, type Format } from '@/core/codec/formats';
import type { TakePage } from '@/core/views/take-page';
import { fetchJson } from '../wire/fetch-json';
import { isOver } from '../wire/use-job';

const LOOK_AGAIN_MS = 1000;

/** Other files of a take: made when asked for, or refused with the reason; and what was copied to a store. */
export function TakeFiles(props: {
  take: TakePage;
  name: string;
  onChange: (work: Promise<unknown>) => Promise<void>;
  onRefresh: () => void;
}) {
  const { take, name, onChange, onRefresh } = props;
  const { copies, job: copying } = take.copies;
  const [open, setOpen] = useState(false);
  const busy = !isOver(copying) || take.files.some(({ job }) => !isOver(job));
  // biome-ignore lint/correctness/useExhaustiveDependencies: `onRefresh` is new at each drawing and always does the same
  useEffect(() => {
    if (!busy) return;
    const timer = setInterval(onRefresh, LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [busy]);
  // Whoever has other files sees them; it stays as it is when they are finished, or was closed by hand.
  const worthSeeing =
    busy || Boolean(copying?.problem) || copies.length > 0 || take.files.some(({ bytes }) => bytes !== null);
  useEffect(() => {
    if (worthSeeing) setOpen(true);
  }, [worthSeeing]);
  if (!take.facts) return null;
  const make = (format: Format | 'copies') =>
    onChange(fetchJson('POST', `/api/takes/${take.id}/files`, { format }));
  const list = (
    <>
      <ul className="list">
        {take.files.map((file) => (
          <li key={file.format}>
            <b>{CONTAINERS[file.format].name}</b>
            <FormatState take={take} file={file} name={name} onMake={() => void make(file.format)} />
          </li>
        ))}
      </ul>
      <Copies of={take.copies} onCopy={() => void make('copies')} />
    </>
  );
  return (
    <Collapse
      className="take-files"
      ghost
      size="small"
      activeKey={open ? ['files'] : []}
      onChange={(keys) => setOpen(keys.length > 0)}
      items={[{ key: 'files', label: 'Other files', children: list }]}
    />
  );
}

/** A format of the take: there to be downloaded, refused, being made, or made on a click. */
function FormatState(props: {
  take: TakePage;
  file: TakePage['files'][number];
  name: string;
  onMake: () => void;
}) {
  const { format, refusal, bytes, job } = props.file;
  if (bytes !== null && isOver(job))
    return (
      <Button
        type="text"
        href={`/api/media/${props.take.id}/made.${format}?name=${encodeURIComponent(props.name)}`}
        download
      >
        Download <span className="small mute">{bytesText(bytes)}</span>
      </Button>
    );
  if (refusal) return <span className="small mute">{refusal}</span>;
  if (!isOver(job))
    return (
      <span className="small" role="status">
        {job?.step} …
      </span>
    );
  return (
    <>
      <span className="small mute">{job?.problem ?? CONTAINERS[format].plays}</span>
      <Button type="text" aria-label={`Make ${CONTAINERS[format].name}`} onClick={props.onMake}>
        Make
      </Button>
    </>
  );
}

/** What was copied to the store that the rig names. */
function Copies({ of: { copies, job }, onCopy }: { of: TakePage['copies']; onCopy: () => void }) {
  return (
    <>
      {copies.map(({ name, store, bytes }) => (
        <p key={`${store}/${name}`} className="small">
          Copied to “{store}”: {name} <span className="mute">({bytesText(bytes)}, hash compared)</span>
        </p>
      ))}
      {!isOver(job) && (
        <p className="small" role="status">
          {job?.step} …
        </p>
      )}
      {job?.problem && (
        <p className="small amber" role="alert">
          {job.problem}{' '}
          <Button type="text" onClick={onCopy}>
            Copy again
          </Button>
        </p>
      )}
    </>
  );
}
