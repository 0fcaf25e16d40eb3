/** Largest sample of each stretch of equal length, 0…255. */
export type Peaks = { perSecond: number; values: readonly number[] };

/** Before the first word: a breath is part of it. */
const HEAD_US = 350_000;
/** After the last word, so that it does not sound cut off. */
const TAIL_US = 600_000;
/** Speech goes on for at least so long; a click or a cough does not. */
const LEAST_SPEECH_US = 240_000;
/** Pauses between syllables and words. */
const GAP_US = 300_000;
/** Over the room's own noise: 12 dB. */
const OVER_NOISE = 4;
/** Under what is loud in this take: 18 dB. A take without pauses must not be judged by its own voice. */
const UNDER_LOUD = 8;
/** −42 dBFS: quieter is no speech anybody could follow. */
const LEAST_PEAK = 2;

/**
 * Where a take might begin and end: a breath before the first speech, a moment after the last; marks lie inside.
 * @param voice peaks of the voice's track, or null when there is none
 * @param marksUs places that the teacher marked while recording
 * @returns null when nothing would be gained, or nothing is known
 */
export function headsAndTails(
  voice: Peaks | null,
  marksUs: readonly number[],
  durationUs: number,
): { inUs: number; outUs: number } | null {
  const speech = voice ? speechSpans(voice) : [];
  const [first, last] = [speech[0], speech.at(-1)];
  if (!first || !last) return null;
  const inUs = Math.max(0, Math.min(first.startUs - HEAD_US, ...marksUs));
  const outUs = Math.min(durationUs, Math.max(last.endUs + TAIL_US, ...marksUs));
  const gained = inUs + durationUs - outUs;
  return gained > 200_000 && inUs < outUs ? { inUs, outUs } : null;
}

/** Stretches in which somebody speaks. */
export function speechSpans({ perSecond, values }: Peaks): { startUs: number; endUs: number }[] {
  const sorted = [...values].sort((a, b) => a - b);
  const part = (share: number) => sorted[Math.floor(sorted.length * share)] ?? 0;
  const threshold = Math.max(LEAST_PEAK, Math.min(part(0.1) * OVER_NOISE, part(0.9) / UNDER_LOUD));
  const us = (index: number) => Math.round((index * 1e6) / perSecond);
  const spans: { startUs: number; endUs: number }[] = [];
  values.forEach((value, i) => {
    if (value < threshold) return;
    const before = spans.at(-1);
    if (before && us(i) - before.endUs <= GAP_US) before.endUs = us(i + 1);
    else spans.push({ startUs: us(i), endUs: us(i + 1) });
  });
  return spans.filter(({ startUs, endUs }) => endUs - startUs >= LEAST_SPEECH_US);
}
