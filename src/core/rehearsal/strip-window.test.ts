import fc from 'fast-check';
import { expect, it } from 'vitest';
import { windowShowing, zoomedWindow } from './strip-window';

const LENGTH = 60_000_000;
const Us = fc.integer({ min: 0, max: LENGTH });
const Shown = fc
  .tuple(Us, Us)
  .map(([a, b]) => ({ fromUs: Math.min(a, b), toUs: Math.max(a, b) + 200_000 }))
  .filter(({ toUs }) => toUs <= LENGTH);

it('zooms around a time that stays in sight, and never past the ends', () => {
  fc.assert(
    fc.property(
      Shown,
      fc.double({ min: 0.1, max: 10, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (shown, factor, share) => {
        const at = shown.fromUs + share * (shown.toUs - shown.fromUs);
        const next = zoomedWindow(shown, factor, at, LENGTH);
        expect(next.fromUs).toBeGreaterThanOrEqual(0);
        expect(next.toUs).toBeLessThanOrEqual(LENGTH + 1);
        expect(next.toUs - next.fromUs).toBeGreaterThanOrEqual(199_999);
        expect(at).toBeGreaterThanOrEqual(next.fromUs - 1);
        expect(at).toBeLessThanOrEqual(next.toUs + 1);
      },
    ),
  );
});

it('moves only where it must to show a time, and stays as wide', () => {
  fc.assert(
    fc.property(Shown, Us, (shown, at) => {
      const next = windowShowing(shown, at, LENGTH);
      if (at >= shown.fromUs && at <= shown.toUs) expect(next).toEqual(shown);
      expect(at).toBeGreaterThanOrEqual(next.fromUs - 1);
      expect(at).toBeLessThanOrEqual(next.toUs + 1);
      expect(next.toUs - next.fromUs).toBeCloseTo(shown.toUs - shown.fromUs, 3);
    }),
  );
});
