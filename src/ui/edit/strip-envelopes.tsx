'use client';

import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { memo } from 'react';
import { clockText } from '@/core/base/figures';
import { type Cut, cutLengthUs, placedSteps, type Step, shownAt, stepTimeUs } from '@/core/cut/cut';
import type { EnvelopePoint } from '@/core/cut/envelope';
import { mixOf } from '@/core/cut/mix';
import { TRACK_NAMES } from '@/core/recording/take';
import { SOUND_TRACKS } from '../player/peaks';
import { useHandle } from '../wire/use-handle';
import { type Lane, lanesOf, type Recorded } from './strip-lanes';
import type { EnvelopeEdits, PointRef } from './use-envelopes';

/** What a lane shows from its upper to its lower edge, dB; quieter points lie on the lower edge. */
const [TOP_DB, BOTTOM_DB] = [12, -36];

/** Where a gain lies in a lane, pixels from the strip's upper edge. */
const levelOf = ({ top, height }: Lane) => scaleLinear([TOP_DB, BOTTOM_DB], [top, top + height]).clamp(true);

/** A step's envelope from its beginning to its end, in places of the video. */
const drawnPoints = (step: Step, startUs: number, points: readonly EnvelopePoint[]): EnvelopePoint[] => {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last) return [];
  return [{ ...first, atUs: 0 }, ...points, { ...last, atUs: stepTimeUs(step) }].map(({ atUs, gainDb }) => ({
    atUs: startUs + shownAt(step, atUs),
    gainDb,
  }));
};

/** The envelopes of all steps over their sounds. @param width of the drawing */
export const EnvelopeLines = memo(function EnvelopeLines(props: {
  cut: Cut;
  recorded: Recorded;
  width: number;
}) {
  const { cut, recorded, width } = props;
  const x = scaleLinear([0, cutLengthUs(cut)], [0, width]);
  const { lanes } = lanesOf(cut, recorded);
  return SOUND_TRACKS.flatMap((sound) => {
    const lane = lanes.find(({ track }) => track === sound);
    if (!lane) return [];
    const path = line<EnvelopePoint>()
      .x(({ atUs }) => x(atUs))
      .y(({ gainDb }) => levelOf(lane)(gainDb));
    return placedSteps(cut)
      .filter(({ step }) => mixOf(step, sound).points.length > 0)
      .map(({ step, startUs }) => (
        <path
          key={`${step.id} ${sound}`}
          className="envelope"
          d={path(drawnPoints(step, startUs, mixOf(step, sound).points)) ?? ''}
        />
      ));
  });
});

/** The points of the step at the playhead: dragged along and up and down, or moved by arrow keys. */
export const EnvelopeHandles = memo(function EnvelopeHandles(props: {
  cut: Cut;
  recorded: Recorded;
  step: Step;
  startUs: number;
  lengthUs: number;
  usPerPixel: () => number;
  onDrag: EnvelopeEdits['drag'];
}) {
  const { cut, recorded, step, startUs, lengthUs, usPerPixel, onDrag } = props;
  const { lanes } = lanesOf(cut, recorded);
  return SOUND_TRACKS.flatMap((sound) => {
    const lane = lanes.find(({ track }) => track === sound);
    if (!lane) return [];
    return mixOf(step, sound).points.map((point, index) => (
      <PointHandle
        // biome-ignore lint/suspicious/noArrayIndexKey: two points may be at the same time
        key={`${sound} ${index}`}
        of={{ step: step.id, sound, index }}
        {...{ point, lane, usPerPixel, onDrag, lengthUs }}
        us={startUs + shownAt(step, point.atUs)}
        speed={step.speed}
      />
    ));
  });
});

function PointHandle(props: {
  of: PointRef;
  point: EnvelopePoint;
  lane: Lane;
  us: number;
  lengthUs: number;
  speed: number;
  usPerPixel: () => number;
  onDrag: EnvelopeEdits['drag'];
}) {
  const { of, point, lane, us, lengthUs, speed, usPerPixel, onDrag } = props;
  const dbPerPixel = (TOP_DB - BOTTOM_DB) / lane.height;
  const grip = useHandle<null, PointRef>(of, (_, from, dx, dy, { byKeys, done }) =>
    // By keys a decibel at a time.
    onDrag(from, dx * usPerPixel() * speed, -dy * (byKeys ? 1 : dbPerPixel), done),
  );
  const label = `Envelope point of the ${TRACK_NAMES[of.sound].toLowerCase()} at ${clockText(us)}: ${point.gainDb} dB`;
  return (
    <button
      type="button"
      className="handle point"
      aria-label={label}
      title={label}
      style={{ left: `${(100 * us) / lengthUs}%`, top: levelOf(lane)(point.gainDb) }}
      {...grip(null)}
    />
  );
}
