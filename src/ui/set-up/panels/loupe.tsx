'use client';

import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { problemOf } from '@/core/base/problem';
import type { LiveFilter } from '@/core/rig/rig';
import { LIVE_FILTER_MS, type Looked, lookThrough } from '@/recorder/loupe/loupe';
import { Pebbles } from '../../fields/choices';
import { useRoom } from '../../lesson/lesson-room';
import { useHandle } from '../../wire/use-handle';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';

const ZOOMS = ['100', '200', '400', '800'] as const;
export const FILTER_NAMES: Record<LiveFilter, string> = {
  browser: 'Browser',
  bilinear: 'Bilinear',
  bicubic: 'Bicubic',
  lanczos: 'Lanczos',
};
const PANE = { width: 300, height: 170 };

/** Text before and after it was scaled, from as large as it is to eight times. */
export function Loupe() {
  const { session } = useRoom();
  const { rig, changePicture } = useSetUp();
  const picture = usePicture();
  const [looked, setLooked] = useState<{ of: string; looked: Looked } | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { aim, box, fit, filter } = rig.picture;
  const key = JSON.stringify([aim, box, fit, picture]);
  const now = looked?.of === key ? looked.looked : null;
  const look = async () => {
    if (!session || busy) return;
    setBusy(true);
    setProblem(null);
    try {
      setLooked({ of: key, looked: await lookThrough(session, rig.picture) });
    } catch (error) {
      setProblem(problemOf(error).message);
    }
    setBusy(false);
  };
  if (!picture) return null;
  return (
    <div className="choice wide loupe">
      <span className="row">
        <span className="lab">Text sharpness after scaling</span>
        <Button type="text" disabled={busy} onClick={() => void look()}>
          {busy ? 'Comparing …' : now ? 'Compare again' : 'Compare'}
        </Button>
      </span>
      {problem && <p role="alert">{problem}</p>}
      {now && <Panes looked={now} filter={filter} onUse={(chosen) => changePicture({ filter: chosen })} />}
      {filter !== 'browser' && (
        <p className="small">
          Scaled by {FILTER_NAMES[filter].toLowerCase()} while recording.{' '}
          <Button type="link" onClick={() => changePicture({ filter: 'browser' })}>
            Use the browser’s scaling
          </Button>
        </p>
      )}
    </div>
  );
}

type PanesProps = { looked: Looked; filter: LiveFilter; onUse: (filter: LiveFilter) => void };

/** Before and after beside each other, at the same place. */
function Panes({ looked: now, filter, onUse }: PanesProps) {
  const [zoom, setZoom] = useState<(typeof ZOOMS)[number]>('200');
  const [shown, setShown] = useState<LiveFilter>(filter);
  const [at, setAt] = useState(now.text);
  const after = now.scaled.find(({ name }) => name === shown) ?? now.scaled[0];
  useEffect(() => setAt(now.text), [now]);
  if (!after) return null;
  return (
    <>
      <div className="row">
        <Pebbles
          name="Zoom"
          value={zoom}
          options={ZOOMS.map((value) => ({ value, label: `${value} %` }))}
          onChange={setZoom}
        />
        <Pebbles
          name="Filter"
          value={after.name}
          options={now.scaled.map(({ name, clarity }) => ({
            value: name,
            label: `${FILTER_NAMES[name]}${clarity === null ? '' : ` ${clarity.toFixed(3)}`}`,
          }))}
          onChange={setShown}
        />
      </div>
      <div className="row">
        <Pane
          name="Before"
          bitmap={now.original}
          scale={1}
          zoom={Number(zoom) / 100}
          at={at}
          onMove={setAt}
          limit={now.original}
        />
        <Pane
          name={`After, ${Math.round(now.scale * 100)} %`}
          bitmap={after.picture}
          scale={after.picture.width / now.original.width}
          zoom={Number(zoom) / 100}
          at={at}
          onMove={setAt}
          limit={now.original}
        />
      </div>
      <p className="small mute">{costNote(after.name, after.ms, now.scale)}</p>
      {after.name !== filter && (after.ms === null || after.ms <= LIVE_FILTER_MS) && now.scale !== 1 && (
        <Button type="text" onClick={() => onUse(after.name)}>
          Scale by {FILTER_NAMES[after.name].toLowerCase()} while recording
        </Button>
      )}
    </>
  );
}

function costNote(name: LiveFilter, ms: number | null, scale: number): string {
  if (scale === 1) return 'One to one: the picture is not scaled.';
  const clarity = 'The figure is text clarity at the original size; 1 is unchanged.';
  if (ms === null) return `${clarity} The browser’s encoder scales.`;
  const cost = `${FILTER_NAMES[name]} takes ${ms.toFixed(1)} ms/frame here`;
  return ms <= LIVE_FILTER_MS
    ? `${clarity} ${cost}.`
    : `${clarity} ${cost}, more than ${LIVE_FILTER_MS} ms: use it in Hand over instead.`;
}

type Place = { x: number; y: number };

function Pane(props: {
  name: string;
  bitmap: ImageBitmap;
  /** Pixels of the bitmap for one of the original. */
  scale: number;
  zoom: number;
  /** The middle, in the original's pixels. */
  at: Place;
  limit: { width: number; height: number };
  onMove: (at: Place) => void;
}) {
  const { bitmap, scale, zoom, at, limit } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const pen = canvas.current?.getContext('2d');
    if (!pen) return;
    const [width, height] = [PANE.width / zoom, PANE.height / zoom];
    // From twice as large on, pixels are shown as they are.
    pen.imageSmoothingEnabled = zoom / scale < 2;
    pen.clearRect(0, 0, PANE.width, PANE.height);
    const [left, top] = [(at.x - width / 2) * scale, (at.y - height / 2) * scale];
    pen.drawImage(bitmap, left, top, width * scale, height * scale, 0, 0, PANE.width, PANE.height);
  }, [bitmap, scale, zoom, at]);
  const go = (x: number, y: number) =>
    props.onMove({
      x: Math.min(limit.width, Math.max(0, x)),
      y: Math.min(limit.height, Math.max(0, y)),
    });
  // A pointer draws the picture, arrows move the frame: the other way, and far enough to get somewhere.
  const grip = useHandle<null, Place>(at, (_, from, dx, dy, { byKeys }) => {
    const by = (byKeys ? 10 : -1) / zoom;
    go(from.x + dx * by, from.y + dy * by);
  });
  return (
    <figure>
      <figcaption className="small">{props.name}</figcaption>
      <canvas
        ref={canvas}
        width={PANE.width}
        height={PANE.height}
        role="img"
        aria-label={`${props.name}. Drag it, or use the arrow keys, to see another part.`}
        tabIndex={0}
        {...grip(null)}
      />
    </figure>
  );
}
