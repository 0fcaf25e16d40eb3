import fc from 'fast-check';
import { expect, it } from 'vitest';
import { TakeId } from '@/core/base/ids';
import type { Layout } from '@/core/layout/layout-kinds';
import type { PictureLane } from './picture-lane';
import { cameraAt, type Lane, lanesIn, type Reel, screenAt, seenAt } from './reels';

const size = { width: 640, height: 360 };
const rate = { num: 30, den: 1 };
const layouts: Layout[] = [
  { kind: 'screen' },
  { kind: 'camera', mirror: false, key: null },
  { kind: 'side-by-side', camera: 'right', mirror: false, key: null },
];

/** Segments of one track, one after another with gaps, as a source that goes and comes back leaves them. */
const segments = (kind: Lane['kind'], least: number) =>
  fc
    .array(fc.tuple(fc.integer({ min: 0, max: 5_000_000 }), fc.integer({ min: 1_000_000, max: 9_000_000 })), {
      minLength: least,
      maxLength: 5,
    })
    .map((each) => {
      let atUs = 0;
      return each.map(([gapUs, lengthUs]): Lane => {
        const firstUs = atUs + gapUs;
        atUs = firstUs + lengthUs;
        return { kind, lane: {} as PictureLane, size, firstUs, lastUs: atUs };
      });
    });

const reels = fc.tuple(segments('screen', 1), segments('camera', 0)).map(
  ([screens, cameras]): Reel => ({
    take: TakeId.parse('AAAAAAAAAAAAAAAAAAAAAA'),
    rate,
    lanes: [...screens, ...cameras],
    sounds: [],
    close: () => {},
  }),
);

it('decodes one segment of each track at a time, those that are drawn, and no camera where a step leaves it out', () => {
  fc.assert(
    fc.property(
      reels,
      fc.nat(60_000_000),
      fc.constantFrom(...layouts),
      fc.constantFrom<Lane['kind']>('screen', 'camera'),
      (reel, us, layout, kind) => {
        const seen = seenAt(reel, us, layout);
        expect(seen.filter((lane) => lane.kind === kind).length).toBeLessThanOrEqual(1);
        expect(seen).toContain(screenAt(reel, us));
        const camera = cameraAt(reel, us);
        expect(seen.some((lane) => lane === camera)).toBe(camera !== undefined && layout.kind !== 'screen');
        // What is shown standing may also be run from there.
        const run = lanesIn(reel, layout);
        for (const lane of seen) expect(run).toContain(lane);
        expect(run.some((lane) => lane.kind === 'camera' && layout.kind === 'screen')).toBe(false);
      },
    ),
  );
});

it('shows and runs a take of the camera alone in every layout, each segment once', () => {
  fc.assert(
    fc.property(
      segments('camera', 1),
      fc.nat(60_000_000),
      fc.constantFrom(...layouts),
      (lanes, us, layout) => {
        const reel: Reel = {
          take: TakeId.parse('AAAAAAAAAAAAAAAAAAAAAA'),
          rate,
          lanes,
          sounds: [],
          close: () => {},
        };
        const seen = seenAt(reel, us, layout);
        expect(seen.length).toBeGreaterThan(0);
        expect(new Set(seen).size).toBe(seen.length);
        expect(lanesIn(reel, layout)).toEqual(lanes);
      },
    ),
  );
});
