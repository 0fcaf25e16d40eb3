import fc from 'fast-check';
import { expect, test } from 'vitest';
import { segmentRuns } from './segment-runs';

type Short = { track: 'screen' | 'voice'; index: number; startUs: number; continues: boolean };
const segment = (track: Short['track'], index: number, startUs: number, continues = false): Short => ({
  track,
  index,
  startUs,
  continues,
});

test('a continued segment joins the one before it, one that begins anew does not', () => {
  const [a, b, c, d] = [
    segment('screen', 0, 0),
    segment('screen', 1, 600, true),
    segment('screen', 2, 900),
    segment('voice', 0, 0),
  ];
  expect(segmentRuns([c, d, b, a])).toEqual([[a, b], [d], [c]]);
});

test('a run never bridges a segment that is missing', () => {
  expect(segmentRuns([segment('screen', 0, 0), segment('screen', 2, 900, true)])).toHaveLength(2);
});

test('every segment is in exactly one run, in the order of its track', () => {
  const any = fc.uniqueArray(
    fc.record({
      track: fc.constantFrom('screen' as const, 'voice' as const),
      index: fc.nat(20),
      startUs: fc.nat(1000),
      continues: fc.boolean(),
    }),
    { selector: ({ track, index }) => `${track} ${index}` },
  );
  fc.assert(
    fc.property(any, (segments) => {
      const runs = segmentRuns(segments);
      expect(new Set(runs.flat())).toEqual(new Set(segments));
      expect(runs.flat()).toHaveLength(segments.length);
      for (const run of runs)
        run.forEach((each, i) => {
          if (i === 0) return;
          expect([each.track, each.index]).toEqual([run[0].track, run[0].index + i]);
          expect(each.continues).toBe(true);
        });
    }),
  );
});
