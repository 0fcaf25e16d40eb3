import type { Packet } from './packet';

/** A stretch of a take in which little changes on the screen. */
export type StillSpan = { startUs: number; endUs: number };

/** Looked at by and by: shorter stretches say nothing of how lively a picture is. */
const LOOK_US = 500_000;
/** A caret that blinks and a clock that ticks stay under this, in one look; a moving pointer, scrolling and typing do not. */
const LIVELY_BYTES = 1500;
/** An encoder sharpens the picture after a keyframe, whether or not anything has changed: with so much at most. */
const SHARPENING_BYTES = 3000;
/** Keyframes of the same picture are as large as one another, but for so much. */
const ALIKE = 1.25;
/** Shorter stretches are pauses between two actions. */
const LEAST_US = 3_000_000;

/**
 * Where little changes on the screen, told by what its encoder had to say: a picture that repeats costs next to nothing.
 * @param packets of the screen on the take's clock, in order; a gap in them is a source that had nothing to show
 * @param durationUs of the take
 * @returns stretches of 3 s and more, in order
 */
export function stillSpans(packets: readonly Packet[], durationUs: number): StillSpan[] {
  const looks = Array.from({ length: Math.floor(durationUs / LOOK_US) }, () => 0);
  let lastKey: Packet | null = null;
  let sharpening = 0;
  for (const packet of packets) {
    const look = Math.floor(packet.us / LOOK_US);
    if (look >= looks.length) continue;
    const add = (bytes: number) => {
      looks[look] = (looks[look] ?? 0) + bytes;
    };
    if (packet.key) {
      if (!lastKey || !isAlike(lastKey.bytes, packet.bytes)) add(LIVELY_BYTES + 1);
      lastKey = packet;
      sharpening = SHARPENING_BYTES;
    } else {
      add(Math.max(0, packet.bytes - sharpening));
      sharpening = Math.max(0, sharpening - packet.bytes);
    }
  }
  const spans: StillSpan[] = [];
  looks.forEach((bytes, i) => {
    if (bytes > LIVELY_BYTES) return;
    const [startUs, endUs] = [i * LOOK_US, (i + 1) * LOOK_US];
    const before = spans.at(-1);
    if (before?.endUs === startUs) before.endUs = endUs;
    else spans.push({ startUs, endUs });
  });
  return spans.filter(({ startUs, endUs }) => endUs - startUs >= LEAST_US);
}

const isAlike = (a: number, b: number): boolean => Math.max(a, b) <= ALIKE * Math.min(a, b);
