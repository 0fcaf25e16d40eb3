'use client';

import type { CSSProperties, KeyboardEvent, ReactNode } from 'react';
import { bitrateText, levelText } from '@/core/base/figures';
import { rateText } from '@/core/base/rational';
import { sizeText } from '@/core/base/sizes';
import { CODEC_NAMES } from '@/core/codec/codecs';
import { type Amount, SOURCE_FPS } from '@/core/encoding/flow';
import { isRealTime } from '@/core/rig/rig';
import { speedText } from '@/core/rig/rig-choices';
import { useSetUp } from '../set-up-context';
import { isDry, STRETCH_NAMES, STRETCHES, type Stretch } from '../stretches';
import { bandOf, COLOURS, columnAt, type FlowShape } from './flow-shape';

const CHANNELS = { 1: 'mono', 2: 'stereo' } as const;
const SOUND_CODECS = { opus: 'Opus', pcm: 'PCM, 16 bit', 'pcm-24': 'PCM, 24 bit' } as const;
const ORDER: Stretch[] = STRETCHES.filter((stretch) => stretch !== 'rig');
const STEPS: Partial<Record<string, 1 | -1>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

type Open = { open: Stretch; onOpen: (stretch: Stretch) => void };

/** The stretches of the flow as tabs: five columns from the display to the disk, and a line for each other track. */
export function FlowTabs(props: Open & { shape: FlowShape; width: number; height: number }) {
  const { shape, width, height, open, onOpen } = props;
  const onKey = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (!step) return;
    event.preventDefault();
    const next = ORDER[(ORDER.indexOf(open) + step + ORDER.length) % ORDER.length] ?? 'source';
    onOpen(next);
    document.getElementById(`stretch-${next}`)?.focus();
  };
  const columns = useColumns();
  const lines = useLines();
  const dry = lines.flatMap(({ stretch }) => (bandOf(shape, stretch) ? [] : [stretch]));
  return (
    <div role="tablist" aria-label="The flow, from the display to the disk" onKeyDown={onKey}>
      {columns.map(({ stretch, name, what }, i) => {
        const left = columnAt(i, width);
        const style = { left, width: columnAt(i + 1, width) - left, top: 0, height: height + 3 };
        return (
          <Tab key={stretch} {...{ stretch, style, open, onOpen }} className="column">
            <b>{name}</b>
            <span className="small mute">{what}</span>
          </Tab>
        );
      })}
      {lines.map(({ stretch, what, raw }) => {
        const band = bandOf(shape, stretch);
        const style = band
          ? {
              ...{ left: 0, width: columnAt(2, width) },
              top: band.rawY - Math.max(12, band.rawHeight / 2),
              height: Math.max(24, band.rawHeight),
            }
          : { left: dry.indexOf(stretch) * 150, width: 140, top: shape.height - 26, height: 26 };
        return (
          <Tab key={stretch} {...{ stretch, style, open, onOpen }} className="line">
            {/* On its band's colour, so that the edge of an open column does not run through it. */}
            <span style={{ background: band && `var(--${COLOURS[stretch]}-soft)` }}>
              <b>{STRETCH_NAMES[stretch]}</b>{' '}
              {band && raw ? (
                <>
                  {bitrateText(raw.value)} <span className="small">{what}</span>
                </>
              ) : (
                <span className="small">none</span>
              )}
            </span>
          </Tab>
        );
      })}
    </div>
  );
}

function Tab(
  props: Open & { stretch: Stretch; style: CSSProperties; className: string; children: ReactNode },
) {
  const { stretch, open, onOpen } = props;
  const { rig } = useSetUp();
  return (
    <button
      type="button"
      role="tab"
      id={`stretch-${stretch}`}
      aria-selected={open === stretch}
      aria-controls="stretch-panel"
      tabIndex={open === stretch || (open === 'rig' && stretch === 'source') ? 0 : -1}
      className={`stretch ${props.className} ${open === stretch ? 'on' : ''} ${isDry(rig, stretch) ? 'dry' : ''}`}
      style={props.style}
      onClick={() => onOpen(stretch)}
    >
      {props.children}
    </button>
  );
}

/** What stands at the head of each column. */
function useColumns(): { stretch: Stretch; name: string; what: string }[] {
  const {
    rig,
    flow: { screen },
    codec,
    hint,
  } = useSetUp();
  const { picture } = rig;
  const source = screen
    ? `${sizeText(screen.source)}, ${SOURCE_FPS} Hz assumed`
    : picture.source.from === 'none'
      ? 'no picture'
      : 'nothing is shared yet';
  const area = screen && (picture.aim === 'whole' ? 'full frame' : `region ${sizeText(screen.kept)}`);
  const speed = isRealTime(picture.speed) ? `${rateText(picture.frameRate)} fps` : speedText(picture.speed);
  const chosen = picture.codec === 'automatic' ? ', chosen here' : '';
  return [
    { stretch: 'source', name: STRETCH_NAMES.source, what: source },
    { stretch: 'area', name: STRETCH_NAMES.area, what: area ?? '' },
    { stretch: 'picture', name: 'Picture', what: screen ? `${sizeText(screen.picture)}, ${speed}` : '' },
    {
      ...{ stretch: 'encode', name: 'Encode' },
      what: `${CODEC_NAMES[codec.codec]}${chosen}${hint.hint ? ', as text' : ''}`,
    },
    { stretch: 'file', name: 'File', what: 'Crash-safe recording, MP4 when finished' },
  ];
}

/** What stands on the line of each other track. */
function useLines(): { stretch: 'camera' | 'voice' | 'app-sound'; what: string; raw?: Amount }[] {
  const { rig, flow } = useSetUp();
  const { camera, voice, appSound } = flow;
  const sound = SOUND_CODECS[rig.sound.codec];
  const gain = rig.appSound && `gain ${levelText(rig.appSound.gainDb)} dB`;
  return [
    {
      ...{ stretch: 'camera', raw: camera?.raw },
      what: camera && rig.camera ? `${sizeText(camera.size)}, ${rateText(rig.camera.frameRate)} fps` : '',
    },
    {
      ...{ stretch: 'voice', raw: voice?.raw },
      what: voice ? `${CHANNELS[voice.channels]}, ${sound}` : '',
    },
    {
      ...{ stretch: 'app-sound', raw: appSound?.raw },
      what: appSound && gain ? `${CHANNELS[appSound.channels]}, ${gain}, ${sound}` : '',
    },
  ];
}
