import { z } from 'zod';
import { Us } from './piece';

/** How much louder or quieter a sound is at a time of its step, decibels over the step's gain. */
export const EnvelopePoint = z.object({
  /** In the step's own time, before its speed. */
  atUs: Us,
  gainDb: z.number().min(-60).max(12),
});
export type EnvelopePoint = z.infer<typeof EnvelopePoint>;

/** Points in order; between two of them the gain moves evenly in decibels. Two at the same time are a leap. */
export const Envelope = z
  .array(EnvelopePoint)
  .max(500)
  .refine(
    (points) => points.every(({ atUs }, i) => atUs >= (points[i - 1]?.atUs ?? 0)),
    'its points must be in order',
  );
export type Envelope = z.infer<typeof Envelope>;

/** The envelope of each sound of a step. */
export const Envelopes = z.object({ voice: Envelope, appSound: Envelope });
export type Envelopes = z.infer<typeof Envelopes>;
export type EnvelopeSound = keyof Envelopes;

export const FLAT: Envelopes = { voice: [], appSound: [] };

/** Changes the envelope of each sound. */
export const eachSound = (
  { voice, appSound }: Envelopes,
  change: (points: readonly EnvelopePoint[], sound: EnvelopeSound) => EnvelopePoint[],
): Envelopes => ({ voice: change(voice, 'voice'), appSound: change(appSound, 'appSound') });

/** The gain on the line to a point from the one before it; beyond either end it stays as it is there, and without any it is 0. */
function onLine(points: readonly EnvelopePoint[], next: number, atUs: number): number {
  const [from, to] = [points[next < 0 ? points.length - 1 : next - 1], points[next]];
  if (!from || !to) return (from ?? to)?.gainDb ?? 0;
  return from.gainDb + ((to.gainDb - from.gainDb) * (atUs - from.atUs)) / (to.atUs - from.atUs);
}

/** The gain at a time, dB. */
export const envelopeDb = (points: readonly EnvelopePoint[], atUs: number): number =>
  onLine(
    points,
    points.findIndex((point) => point.atUs > atUs),
    atUs,
  );

/** The gain that a time is reached with, dB: what a leap there goes to comes after it. */
const reachedDb = (points: readonly EnvelopePoint[], atUs: number): number =>
  onLine(
    points,
    points.findIndex((point) => point.atUs >= atUs),
    atUs,
  );

/** The part between two times, counted from the first of these; its gain stays the same at every instant. */
export function envelopeBetween(points: readonly EnvelopePoint[], fromUs: number, toUs: number): Envelope {
  if (points.length === 0) return [];
  const inside = points.filter(({ atUs }) => fromUs < atUs && atUs < toUs);
  const first = { atUs: fromUs, gainDb: envelopeDb(points, fromUs) };
  const last = { atUs: toUs, gainDb: reachedDb(points, toUs) };
  return bent([first, ...inside, last]).map(({ atUs, gainDb }) => ({ atUs: atUs - fromUs, gainDb }));
}

/**
 * One envelope after another.
 * @param lengthUs of the first one's time
 * @param moreUs of the second one's
 */
export function envelopeJoined(
  first: readonly EnvelopePoint[],
  lengthUs: number,
  second: readonly EnvelopePoint[],
  moreUs: number,
): Envelope {
  if (first.length + second.length === 0) return [];
  return bent([
    ...closed(first, lengthUs),
    ...closed(second, moreUs).map(({ atUs, gainDb }) => ({ atUs: atUs + lengthUs, gainDb })),
  ]);
}

/** The same with a point at both of its ends. */
const closed = (points: readonly EnvelopePoint[], lengthUs: number): Envelope => [
  { atUs: 0, gainDb: envelopeDb(points, 0) },
  ...points.filter(({ atUs }) => 0 < atUs && atUs < lengthUs),
  { atUs: lengthUs, gainDb: reachedDb(points, lengthUs) },
];

const ON_LINE_DB = 1e-6;

/** Without the points that change nothing: splitting an envelope and joining it again leaves none behind. */
function bent(points: readonly EnvelopePoint[]): Envelope {
  const kept: EnvelopePoint[] = [];
  points.forEach((point, i) => {
    const [before, after] = [kept.at(-1), points[i + 1]];
    if (before && sameAs(before, point)) return;
    if (before && after && isOnLine(before, point, after)) return;
    kept.push(point);
  });
  // What is level from its beginning to its first point, or from its last one on, needs no point at its end.
  while (kept.length > 1 && isLevel(kept.at(-2), kept.at(-1))) kept.pop();
  while (kept.length > 1 && isLevel(kept[0], kept[1])) kept.shift();
  return kept.length === 1 && kept[0]?.gainDb === 0 ? [] : kept;
}

const sameAs = (a: EnvelopePoint, b: EnvelopePoint): boolean =>
  a.atUs === b.atUs && Math.abs(a.gainDb - b.gainDb) < ON_LINE_DB;

const isLevel = (a: EnvelopePoint | undefined, b: EnvelopePoint | undefined): boolean =>
  a !== undefined && b !== undefined && a.atUs !== b.atUs && Math.abs(a.gainDb - b.gainDb) < ON_LINE_DB;

const isOnLine = (a: EnvelopePoint, point: EnvelopePoint, b: EnvelopePoint): boolean =>
  a.atUs < point.atUs &&
  point.atUs < b.atUs &&
  Math.abs(envelopeDb([a, b], point.atUs) - point.gainDb) < ON_LINE_DB;

/** With another point; one that is there already is moved to its gain. */
export function withPoint(points: readonly EnvelopePoint[], point: EnvelopePoint): Envelope {
  const others = points.filter(({ atUs }) => atUs !== point.atUs);
  return [...others, point].sort((a, b) => a.atUs - b.atUs);
}

/** Moves a point, in time no further than to its neighbours and the ends of its step. @param lengthUs of the step's time */
export function movedPoint(
  points: readonly EnvelopePoint[],
  index: number,
  to: EnvelopePoint,
  lengthUs: number,
): Envelope {
  const [least, most] = [points[index - 1]?.atUs ?? 0, points[index + 1]?.atUs ?? lengthUs];
  const moved = {
    atUs: Math.round(Math.max(least, Math.min(most, to.atUs))),
    gainDb: Math.max(-60, Math.min(12, to.gainDb)),
  };
  return points.map((point, i) => (i === index ? moved : point));
}
