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
        {take.files.map(({ format, refusal, bytes, job }) => (
          <li key={format}>
            <b>{CONTAINERS[format].name}</b>
            {bytes !== null && isOver(job) ? (
              <Button
                type="text"
                href={`/api/media/${take.id}/made.${format}?name=${encodeURIComponent(name)}`}
                download
              >
                Download <span className="small mute">{bytesText(bytes)}</span>
              </Button>
            ) : refusal ? (
              <span className="small mute">{refusal}</span>
            ) : !isOver(job) ? (
              <span className="small" role="status">
                {job?.step} …
              </span>
            ) : (
              <>
                <span className="small mute">{job?.problem ?? CONTAINERS[format].plays}</span>
                <Button
                  type="text"
                  aria-label={`Make ${CONTAINERS[format].name}`}
                  onClick={() => void make(format)}
                >
                  Make
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
      {copies.map(({ name: copied, store, bytes }) => (
        <p key={`${store}/${copied}`} className="small">
          Copied to “{store}”: {copied} <span className="mute">({bytesText(bytes)}, hash compared)</span>
        </p>
      ))}
      {!isOver(copying) && (
        <p className="small" role="status">
          {copying?.step} …
        </p>
      )}
      {copying?.problem && (
        <p className="small amber" role="alert">
          {copying.problem}{' '}
          <Button type="text" onClick={() => void make('copies')}>
            Copy again
          </Button>
        </p>
      )}
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
