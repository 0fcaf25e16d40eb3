'use client';

import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { aboutBitrateText, aboutBytesText, bitrateText, bytesText, levelText } from '@/core/base/figures';
import { roomText } from '@/core/base/free-space';
import { lengthText } from '@/core/base/length';
import { rateText } from '@/core/base/rational';
import { sizeText } from '@/core/base/sizes';
import { CODEC_NAMES } from '@/core/codec/codecs';
import type { Amount } from '@/core/encoding/flow';
import { SOURCE_FPS } from '@/core/encoding/flow';
import { isRealTime } from '@/core/rig/rig';
import { speedText } from '@/core/rig/rig-choices';
import { useRoomLeft } from '../free-space';
import { useSetUp } from '../set-up-context';
import { isDry, STRETCH_NAMES, STRETCHES, type Stretch } from '../stretches';
import { COLUMNS, type FlowKind, flowShape } from './flow-shape';
import { FlowTable } from './flow-table';

const COLOURS: Record<FlowKind, string> = {
  screen: 'river',
  camera: 'plum',
  voice: 'moss',
  'app-sound': 'heron',
};

const SCALE_HEIGHT = 20;
const CHANNELS = { 1: 'mono', 2: 'stereo' } as const;

/** An amount; an estimate says that it is one, and no more digits than it knows. */
export const amountText = (
  { value, range }: Amount,
  text: (value: number) => string,
  about: (value: number) => string,
): string => (range ? `about ${about(value)}` : text(value));
export const rangeText = ({ range }: Amount, about: (value: number) => string): string =>
  range ? `${about(range[0])} to ${about(range[1])}` : '';
const megabytes = (value: number) => bytesText(value * 1e6);
const aboutMegabytes = (value: number) => aboutBytesText(value * 1e6);

/** The flow: the data from the display to the disk, each narrowing with its true figure. Its stretches are tabs of what stands below. */
export function FlowDrawing({ open, onOpen }: { open: Stretch; onOpen: (stretch: Stretch) => void }) {
  const { rig, flow, codec, hint } = useSetUp();
  const room = useRoomLeft(flow.file.value / 8);
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
  // Below the bands: those that carry nothing, and what the widths mean.
  const height = shape.height + (shape.bands.length < 4 ? 30 : 0) + SCALE_HEIGHT;
  const { screen, camera, voice, appSound, file } = flow;
  const at = (column: number) => (COLUMNS[column] ?? 0) * width;
  const bandOf = (kind: FlowKind) => shape.bands.find((band) => band.kind === kind);
  const first = bandOf('screen');
  const order: Stretch[] = STRETCHES.filter((stretch) => stretch !== 'rig');
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!step) return;
    event.preventDefault();
    const next = order[(order.indexOf(open) + step + order.length) % order.length] ?? 'source';
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
      tabIndex={open === stretch || (open === 'rig' && stretch === 'source') ? 0 : -1}
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
  const encoded = (
    [
      ['screen', screen],
      ['camera', camera],
      ['voice', voice],
      ['app-sound', appSound],
    ] as const
  ).flatMap(([kind, track]) => (track ? [[kind, track.encoded] as const] : []));
  const sound = { opus: 'Opus', pcm: 'PCM, 16 bit', 'pcm-24': 'PCM, 24 bit' }[rig.sound.codec];
  const film = rig.picture.speed;
  const joined = open === 'camera' || open === 'voice' || open === 'app-sound' ? bandOf(open) : undefined;
  return (
    <div className="flow" ref={box} style={{ height }}>
      <svg className="over" width={width} height={height} aria-hidden="true">
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
          'source',
          0,
          1,
          STRETCH_NAMES.source,
          screen
            ? `${sizeText(screen.source)}, ${SOURCE_FPS} Hz assumed`
            : rig.picture.source.from === 'none'
              ? 'no picture'
              : 'nothing is shared yet',
        )}
        {column(
          'area',
          1,
          2,
          STRETCH_NAMES.area,
          screen ? (rig.picture.aim === 'whole' ? 'full frame' : `region ${sizeText(screen.kept)}`) : '',
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
        {line('voice', 'voice', voice ? `${CHANNELS[voice.channels]}, ${sound}` : '', voice?.raw)}
        {line(
          'app-sound',
          'app-sound',
          appSound && rig.appSound
            ? `${CHANNELS[appSound.channels]}, gain ${levelText(rig.appSound.gainDb)} dB, ${sound}`
            : '',
          appSound?.raw,
        )}
      </div>
      <div className="flow-figures" aria-hidden="true">
        {encoded.map(([kind, amount]) => {
          const band = bandOf(kind);
          return (
            band && (
              <span
                key={kind}
                className={kind === 'screen' ? 'encoded fig' : 'encoded small'}
                style={{ left: at(3) + 36, top: band.encodedY + band.encodedHeight / 2 + 1 }}
              >
                {amountText(amount, bitrateText, aboutBitrateText)}
              </span>
            )
          );
        })}
        {screen && first && (
          <>
            <b style={{ left: 16, top: first.rawY - 13 }}>{bitrateText(screen.display.value)}</b>
            {rig.picture.aim !== 'whole' && (
              <b style={{ left: at(1) + 32, top: first.rawY - 13 }}>{bitrateText(screen.aim.value)}</b>
            )}
            <b style={{ left: at(2) + 32, top: first.rawY - 13 }}>{bitrateText(screen.picked.value)}</b>
          </>
        )}
        <span
          className="flow-file"
          style={{ left: at(4) + 26, top: shape.fileBottom + 8, width: at(5) - at(4) - 26 }}
        >
          <b>{amountText(file, bitrateText, aboutBitrateText)}</b>
          <span className="small">
            {amountText(flow.megabytesAMinute, megabytes, aboutMegabytes)}/min
            {flow.megabytesPlanned &&
              `, ${amountText(flow.megabytesPlanned, megabytes, aboutMegabytes)} for the ${lengthText(rig.plannedLengthS ?? 0)} planned`}
          </span>
          <span className="small mute">
            {flow.how === 'measured'
              ? 'measured in the last take'
              : `${flow.how === 'sampled' ? 'estimated from the live source' : 'not measured yet'}: ${rangeText(flow.megabytesAMinute, aboutMegabytes)}/min`}
          </span>
          {room.browser && (
            <span className="small mute">
              room for about {roomText(room.browser)} in this browser
              {room.server && `, ${roomText(room.server)} on the studio’s disk`}
            </span>
          )}
        </span>
      </div>
      {joined && (
        // A band's tab lies above those of others: its edge runs on down to the panel.
        <i
          className="flow-join"
          style={{ top: joined.rawY + Math.max(12, joined.rawHeight / 2), bottom: -3 }}
          aria-hidden="true"
        />
      )}
      <p className="flow-scale small mute">Band widths are on a logarithmic scale.</p>
      <FlowTable />
    </div>
  );
}
