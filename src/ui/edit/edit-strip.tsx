'use client';

import { useQueries } from '@tanstack/react-query';
import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { area } from 'd3-shape';
import { type PointerEvent, useRef } from 'react';
import { type Cut, cutLengthUs, type Placed, placedPieces, stepLengthUs } from '@/core/cut/cut';
import { clockText } from '@/core/figures';
import type { StepId, TakeId } from '@/core/ids';
import { TRACK_NAMES } from '@/core/take';

export type TakePeaks = { perSecond: number; tracks: Partial<Record<'voice' | 'app-sound', number[]>> };

/** The waveforms of takes, as far as they are there. */
export function usePeaks(takes: readonly TakeId[]): Map<TakeId, TakePeaks> {
  const answers = useQueries({
    queries: takes.map((take) => ({
      queryKey: ['peaks', take],
      queryFn: async (): Promise<TakePeaks> => {
        const answer = await fetch(`/api/media/${take}/peaks.json`);
        if (!answer.ok) throw new Error('The waveform is not made yet.');
        return answer.json();
      },
      retry: 60,
      retryDelay: 1000,
    })),
  });
  return new Map(takes.flatMap((take, i) => (answers[i]?.data ? [[take, answers[i].data]] : [])));
}

export type Range = { fromUs: number; toUs: number };

const WIDTH = 1000;
const LANE = 34;
const LANES = ['voice', 'app-sound'] as const;

/** The cut from end to end: its steps, the sounds, marks, what is chosen, and the place. All places are µs of the video. */
export function EditStrip(props: {
  cut: Cut;
  peaks: Map<TakeId, TakePeaks>;
  marksUs: number[];
  positionUs: number;
  chosen: Range | null;
  /** What would be left if heads and tails were trimmed. */
  proposed: Range | null;
  step: StepId;
  onSeek: (us: number) => void;
  onChoose: (range: Range) => void;
  onStep: (id: StepId) => void;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
}) {
  const { cut, peaks, positionUs, chosen, proposed } = props;
  const strip = useRef<HTMLDivElement>(null);
  const lengthUs = cutLengthUs(cut);
  const x = scaleLinear([0, lengthUs], [0, WIDTH]);
  const share = (us: number) => `${(100 * us) / lengthUs}%`;
  const usAt = (clientX: number) => {
    const box = strip.current?.getBoundingClientRect();
    if (!box) return 0;
    return Math.round(Math.max(0, Math.min(1, (clientX - box.left) / box.width)) * lengthUs);
  };
  const pieces = placedPieces(cut);
  let startUs = 0;
  const stones = cut.steps.map((step) => {
    const from = startUs;
    startUs += stepLengthUs(step);
    return { step, from, to: startUs };
  });
  return (
    <div className="edit-strip">
      <ol className="stretches" aria-label="Steps">
        {stones.map(({ step, from, to }) => (
          <li key={step.id} style={{ width: share(to - from) }}>
            <button
              type="button"
              className={step.id === props.step ? 'on' : ''}
              aria-pressed={step.id === props.step}
              onClick={() => props.onStep(step.id)}
            >
              {step.title}
            </button>
          </li>
        ))}
      </ol>
      <div className="lanes">
        <div
          ref={strip}
          className="time-strip"
          role="slider"
          tabIndex={0}
          aria-label="Place in the video"
          aria-valuemin={0}
          aria-valuemax={Math.round(lengthUs / 1e6)}
          aria-valuenow={Math.round(positionUs / 1e6)}
          aria-valuetext={clockText(positionUs)}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            props.onSeek(usAt(event.clientX));
          }}
          onPointerMove={(event) => event.buttons === 1 && props.onSeek(usAt(event.clientX))}
        >
          <svg
            viewBox={`0 0 ${WIDTH} ${LANES.length * LANE}`}
            preserveAspectRatio="none"
            width="100%"
            height={LANES.length * LANE}
            aria-hidden="true"
          >
            {LANES.map((track, lane) =>
              pieces.map((placed) => (
                <path
                  key={`${track}-${placed.startUs}`}
                  d={waveform(peaks.get(placed.piece.take), track, placed, x, lane * LANE)}
                  fill={`var(--${track === 'voice' ? 'moss' : 'heron'})`}
                />
              )),
            )}
            {pieces.slice(1).map(({ startUs: at }) => (
              <line key={at} className="seam" x1={x(at)} x2={x(at)} y1="0" y2={LANES.length * LANE} />
            ))}
          </svg>
          {LANES.filter((track) => pieces.some(({ piece }) => peaks.get(piece.take)?.tracks[track])).map(
            (track) => (
              <span
                key={track}
                className="lane-name"
                style={{
                  top: LANES.indexOf(track) * LANE + 1,
                  color: `var(--${track === 'voice' ? 'moss' : 'heron'})`,
                }}
              >
                {TRACK_NAMES[track]}
              </span>
            ),
          )}
          {proposed && proposed.fromUs > 0 && (
            <span className="dull" style={{ left: 0, width: share(proposed.fromUs) }} />
          )}
          {proposed && proposed.toUs < lengthUs && (
            <span className="dull" style={{ left: share(proposed.toUs), right: 0 }} />
          )}
          {props.marksUs.map((us) => (
            <span key={us} className="mark" style={{ left: share(us) }} title={`Mark at ${clockText(us)}`} />
          ))}
          {chosen && (
            <span
              className="chosen"
              style={{ left: share(chosen.fromUs), width: share(chosen.toUs - chosen.fromUs) }}
            />
          )}
          <span className="playhead" style={{ left: share(positionUs) }} />
        </div>
        {chosen && (
          <>
            <Handle
              label="Start of what is chosen"
              left={share(chosen.fromUs)}
              onMove={(clientX) =>
                props.onChoose({ ...chosen, fromUs: Math.min(usAt(clientX), chosen.toUs - 1) })
              }
            />
            <Handle
              label="End of what is chosen"
              left={share(chosen.toUs)}
              onMove={(clientX) =>
                props.onChoose({ ...chosen, toUs: Math.max(usAt(clientX), chosen.fromUs + 1) })
              }
            />
          </>
        )}
        {(['start', 'end'] as const).map((end) => (
          <EndHandle
            key={end}
            end={end}
            usPerPixel={() => lengthUs / Math.max(1, strip.current?.clientWidth ?? 1)}
            onEnd={props.onEnd}
          />
        ))}
      </div>
    </div>
  );
}

function Handle(props: { label: string; left: string; onMove: (clientX: number) => void }) {
  return (
    <button
      type="button"
      className="handle"
      aria-label={props.label}
      style={{ left: props.left }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => event.buttons === 1 && props.onMove(event.clientX)}
    />
  );
}

/** One of the video's ends: dragged inwards it trims, outwards it brings back what was trimmed. */
function EndHandle(props: {
  end: 'start' | 'end';
  usPerPixel: () => number;
  onEnd: (end: 'start' | 'end', byUs: number, done: boolean) => void;
}) {
  const { end, usPerPixel, onEnd } = props;
  const drag = useRef<{ x: number; usPerPixel: number } | null>(null);
  const by = (event: PointerEvent) =>
    drag.current ? Math.round((event.clientX - drag.current.x) * drag.current.usPerPixel) : 0;
  return (
    <button
      type="button"
      className={`handle end ${end}`}
      aria-label={end === 'start' ? 'Where the video begins' : 'Where the video ends'}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        drag.current = { x: event.clientX, usPerPixel: usPerPixel() };
      }}
      onPointerMove={(event) => drag.current && onEnd(end, by(event), false)}
      onPointerUp={(event) => {
        const moved = by(event);
        drag.current = null;
        if (moved !== 0) onEnd(end, moved, true);
      }}
      onKeyDown={(event) => {
        const sign = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
        if (sign === 0) return;
        event.preventDefault();
        event.stopPropagation();
        onEnd(end, sign * 100_000, true);
      }}
    />
  );
}

/** The sound of one piece where it is heard; at most one point a pixel: the loudest of those that fall together. */
function waveform(
  peaks: TakePeaks | undefined,
  track: (typeof LANES)[number],
  { piece, startUs }: Placed,
  x: ScaleLinear<number, number>,
  top: number,
): string {
  const all = peaks?.tracks[track];
  if (!peaks || !all) return '';
  const index = (us: number) => Math.floor((us / 1e6) * peaks.perSecond);
  const own = all.slice(index(piece.inUs), index(piece.outUs));
  const pixels = Math.max(2, x(piece.outUs - piece.inUs));
  const step = Math.max(1, Math.ceil(own.length / pixels));
  const points = Array.from({ length: Math.ceil(own.length / step) }, (_, i) =>
    Math.max(...own.slice(i * step, (i + 1) * step)),
  );
  const middle = top + LANE / 2;
  const reach = (peak: number) => Math.max(0.5, (peak / 255) * (LANE / 2 - 1));
  return (
    area<number>()
      .x((_, i) => x(startUs + (i * step * 1e6) / peaks.perSecond))
      .y0((peak) => middle - reach(peak))
      .y1((peak) => middle + reach(peak))(points) ?? ''
  );
}
