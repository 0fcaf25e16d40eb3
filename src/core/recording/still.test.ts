import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Packet } from './packet';
import { stillSpans } from './still';

const S = 1_000_000;
/** 30 fps with a keyframe every two seconds, and what a picture costs at a time. */
function packets(
  durationS: number,
  bytesAt: (s: number) => number,
  keyAt: (s: number) => number = () => 5000,
) {
  return Array.from({ length: durationS * 30 }, (_, n): Packet => {
    const s = n / 30;
    const key = n % 60 === 0;
    return { us: Math.round(s * S), bytes: key ? keyAt(s) : bytesAt(s), key };
  });
}
const seconds = (list: readonly Packet[], durationS: number) =>
  stillSpans(list, durationS * S).map(({ startUs, endUs }) => [startUs / S, endUs / S]);

it('finds where little changes: what repeats, a blinking caret, and nothing at all', () => {
  expect(
    seconds(
      packets(20, (s) => (s >= 5 && s < 12 ? 20 : 900)),
      20,
    ),
  ).toEqual([[5, 12]]);
  // A caret: some hundred bytes, twice a second.
  const caret = (s: number) => (Math.round(s * 30) % 15 === 8 ? 400 : 20);
  expect(
    seconds(
      packets(20, (s) => (s >= 5 ? caret(s) : 900)),
      20,
    ),
  ).toEqual([[5, 20]]);
  // A window that gives nothing for a while.
  const silent = packets(20, () => 900).filter(({ us }) => us < 4 * S || us >= 10 * S);
  expect(seconds(silent, 20)).toEqual([[4, 10]]);
});

it('takes what an encoder adds after a keyframe for no change, and another picture at a keyframe for one', () => {
  const sharpening = (s: number) => (s % 2 < 0.3 ? 250 : 15);
  expect(seconds(packets(10, sharpening), 10)).toEqual([[0.5, 10]]);
  // A picture that is repeated once a second is sharpened by the first of them.
  const rare = packets(12, () => 1800).filter(({ key, us }) => key || us % S === 0);
  expect(seconds(rare, 12)).toEqual([[0.5, 12]]);
  const slide = packets(
    12,
    () => 15,
    (s) => (s < 6 ? 5000 : 9000),
  );
  expect(seconds(slide, 12)).toEqual([
    [0.5, 6],
    [6.5, 12],
  ]);
});

it('gives stretches in order, apart, inside the take, none shorter than three seconds', () => {
  const Packets = fc.array(
    fc.record({
      us: fc.integer({ min: 0, max: 40 * S }),
      bytes: fc.integer({ min: 10, max: 3000 }),
      key: fc.boolean(),
    }),
    { maxLength: 200 },
  );
  fc.assert(
    fc.property(Packets, fc.integer({ min: 0, max: 40 * S }), (list, durationUs) => {
      const spans = stillSpans(
        [...list].sort((a, b) => a.us - b.us),
        durationUs,
      );
      spans.forEach(({ startUs, endUs }, i) => {
        expect(endUs - startUs).toBeGreaterThanOrEqual(3 * S);
        expect(endUs).toBeLessThanOrEqual(durationUs);
        expect(startUs).toBeGreaterThan(spans[i - 1]?.endUs ?? -1);
      });
    }),
  );
});
