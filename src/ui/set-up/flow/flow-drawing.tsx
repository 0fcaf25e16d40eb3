'use client';

import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { CODEC_NAMES } from '@/core/codecs';
import { bitrateText, bytesText } from '@/core/figures';
import type { Amount } from '@/core/flow';
import { SOURCE_FPS } from '@/core/flow';
import { rateText } from '@/core/rational';
import { isRealTime } from '@/core/rig';
import { speedText } from '@/core/rig-choices';
import { roomText } from '@/core/room';
import { sizeText } from '@/core/sizes';
import { useRoomLeft } from '../room';
import { useSetUp } from '../set-up-context';
import { isDry, STRETCH_NAMES, type Stretch } from '../stretches';
import { COLUMNS, type FlowKind, flowShape } from './flow-shape';
import { FlowTable } from './flow-table';

const COLOURS: Record<FlowKind, string> = {
  screen: 'river',
  camera: 'plum',
  voice: 'moss',
  'app-sound': 'heron',
};

/** An amount and, where it is an estimate, between what it may lie. */
export const amountText = ({ value, range }: Amount, text: (value: number) => string): string =>
  range ? `about ${text(value)}` : text(value);
export const rangeText = ({ range }: Amount, text: (value: number) => string): string =>
  range ? `${text(range[0])} to ${text(range[1])}` : '';
const megabytes = (value: number) => bytesText(value * 1e6);

/** The flow: the data from the display to the disk, each narrowing with its true figure. Its stretches are tabs of what stands below. */
export function FlowDrawing({ open, onOpen }: { open: Stretch; onOpen: (stretch: Stretch) => void }) {
  const { rig, flow, codec, hint } = useSetUp();
  const room = useRoomLeft();
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1224);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const sizes = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    sizes.observe(element);
    return () => sizes.disconnect();
  }, []);
  const shape = useMemo(() => flowShape(flow, width), [flow, width]);
  const height = shape.height + (shape.bands.length < 4 ? 30 : 0);
  const { screen, camera, voice, appSound, file } = flow;
  const at = (column: number) => (COLUMNS[column] ?? 0) * width;
  const bandOf = (kind: FlowKind) => shape.bands.find((band) => band.kind === kind);
  const first = bandOf('screen');
  const order: Stretch[] = ['aim', 'picture', 'encode', 'file', 'camera', 'voice', 'app-sound'];
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const next = order[(order.indexOf(open) + step + order.length) % order.length] ?? 'aim';
    onOpen(next);
    document.getElementById(`stretch-${next}`)?.focus();
  };
  const tab = (stretch: Stretch, style: React.CSSProperties, children: React.ReactNode, className = '') => (
    <button
      type="button"
      role="tab"
      id={`stretch-${stretch}`}
      aria-selected={open === stretch}
      aria-controls="stretch-panel"
      tabIndex={open === stretch || (open === 'rig' && stretch === 'aim') ? 0 : -1}
      className={`stretch ${className} ${open === stretch ? 'on' : ''} ${isDry(rig, stretch) ? 'dry' : ''}`}
      style={style}
      onClick={() => onOpen(stretch)}
    >
      {children}
    </button>
  );
  const column = (stretch: Stretch, from: number, to: number, name: string, what: string) =>
    tab(
      stretch,
      { left: at(from), width: at(to) - at(from), top: 0, height: height + 3 },
      <>
        <b>{name}</b>
        <span className="small mute">{what}</span>
      </>,
      'column',
    );
  const line = (stretch: 'camera' | 'voice' | 'app-sound', kind: FlowKind, what: string, raw?: Amount) => {
    const band = bandOf(kind);
    const dryAt = shape.height - 26;
    const dry = (['camera', 'voice', 'app-sound'] as const).filter((each) => !bandOf(each));
    return tab(
      stretch,
      band
        ? {
            left: 0,
            width: at(2),
            top: band.rawY - Math.max(12, band.rawHeight / 2),
            height: Math.max(24, band.rawHeight),
          }
        : { left: dry.indexOf(stretch) * 150, width: 140, top: dryAt, height: 26 },
      <>
        <b>{STRETCH_NAMES[stretch]}</b>
        {band && raw ? (
          <>
            {' '}
            <span>{bitrateText(raw.value)}</span> <span className="small">{what}</span>
          </>
        ) : (
          <span className="small"> none</span>
        )}
      </>,
      'line',
    );
  };
  const sound = { opus: 'Opus', pcm: 'PCM, 16 bit', 'pcm-24': 'PCM, 24 bit' }[rig.sound.codec];
  const film = rig.picture.speed;
  return (
    <div className="flow" ref={box} style={{ height }}>
      <svg width={width} height={height} aria-hidden="true">
        <defs>
          {Object.entries(COLOURS).map(([kind, colour]) => (
            <linearGradient key={kind} id={`narrow-${kind}`}>
              <stop offset="0.86" stopColor={`var(--${colour}-soft)`} />
              <stop offset="1" stopColor={`var(--${colour})`} />
            </linearGradient>
          ))}
        </defs>
        {shape.bands.map(({ kind, raw, encoded, widest }) => (
          <g key={kind}>
            {widest && <path d={widest} fill={`var(--${COLOURS[kind]})`} opacity="0.16" />}
            <path d={raw} fill={`url(#narrow-${kind})`} />
            <path d={encoded} fill={`var(--${COLOURS[kind]})`} />
          </g>
        ))}
      </svg>
      <div role="tablist" aria-label="The flow, from the display to the disk" onKeyDown={onKey}>
        {column(
          'aim',
          0,
          2,
          'Aim',
          screen
            ? `${sizeText(screen.source)}, up to ${SOURCE_FPS} fps, ${rig.picture.aim === 'whole' ? 'full frame' : `region ${sizeText(screen.kept)}`}`
            : rig.picture.source.from === 'none'
              ? 'no picture'
              : 'nothing is aimed at yet',
        )}
        {column(
          'picture',
          2,
          3,
          'Picture',
          screen
            ? `${sizeText(screen.picture)}, ${isRealTime(film) ? `${rateText(rig.picture.frameRate)} fps` : speedText(film)}`
            : '',
        )}
        {column(
          'encode',
          3,
          4,
          'Encode',
          `${CODEC_NAMES[codec.codec]}${rig.picture.codec === 'automatic' ? ', chosen here' : ''}${hint.hint ? ', as text' : ''}`,
        )}
        {column('file', 4, 5, 'File', 'Crash-safe recording, MP4 when finished')}
        {line(
          'camera',
          'camera',
          camera && rig.camera ? `${sizeText(camera.size)}, ${rateText(rig.camera.frameRate)} fps` : '',
          camera?.raw,
        )}
        {line('voice', 'voice', `one channel, ${sound}`, voice?.raw)}
        {line(
          'app-sound',
          'app-sound',
          rig.appSound ? `${Math.abs(rig.appSound.gainDb)} dB under the voice, ${sound}` : '',
          appSound?.raw,
        )}
      </div>
      <div className="flow-figures" aria-hidden="true">
        {screen && first && (
          <>
            <b style={{ left: 16, top: first.rawY - 13 }}>{bitrateText(screen.display.value)}</b>
            <b style={{ left: at(1) + 32, top: first.rawY - 13 }}>{bitrateText(screen.aim.value)}</b>
            <b style={{ left: at(2) + 32, top: first.rawY - 13 }}>{bitrateText(screen.picked.value)}</b>
            <span style={{ left: at(3) + 36, top: first.rawY + first.encodedHeight / 2 + 4 }}>
              <b>{amountText(screen.encoded, bitrateText)}</b>
            </span>
          </>
        )}
        <span
          className="flow-file"
          style={{ left: at(4) + 26, top: shape.fileBottom + 8, width: at(5) - at(4) - 26 }}
        >
          <b>{amountText(file, bitrateText)}</b>
          <span className="small">
            {amountText(flow.megabytesAMinute, megabytes)}/min
            {flow.megabytesPlanned &&
              `, ${amountText(flow.megabytesPlanned, megabytes)} for the ${roomText({ seconds: rig.plannedLengthS ?? 0 })} planned`}
          </span>
          <span className="small mute">
            {flow.how === 'measured'
              ? 'measured in the last take'
              : `${flow.how === 'sampled' ? 'estimated from the live source' : 'not measured yet'}: ${rangeText(flow.megabytesAMinute, megabytes)}/min`}
          </span>
          {room.browser && (
            <span className="small mute">
              room for {roomText(room.browser)} in this browser
              {room.server && `, ${roomText(room.server)} on the studio’s disk`}
            </span>
          )}
        </span>
      </div>
      <FlowTable />
    </div>
  );
}
