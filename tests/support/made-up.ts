// Made-up takes, cuts and layouts for properties: small pictures, so that a hundred graphs are made in a moment.
import fc from 'fast-check';
import { newStepId, newTakeId, type TakeId } from '@/core/base/ids';
import { type FrameRate, frameTimeUs } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import { type Area, type Cover, views, type Zoom } from '@/core/cut/area';
import { type Cut, PLAIN_STEP } from '@/core/cut/cut';
import type { Envelope } from '@/core/cut/envelope';
import { type Looks, UNCHANGED_LOOKS } from '@/core/cut/looks';
import type { Piece } from '@/core/cut/piece';
import type { Opening, Shot } from '@/core/deliver/shot';
import type {
  CopySource,
  PictureInput,
  RecordedPicture,
  RenderTake,
  SoundInput,
} from '@/core/deliver/take-sources';
import { firstKey } from '@/core/image/colour-key';
import type { Layout } from '@/core/layout/layout-kinds';
import { type CameraPlace, FIRST_PLACE } from '@/core/rig/rig';

export const frameRate = fc.constantFrom<FrameRate>(
  { num: 30, den: 1 },
  { num: 30_000, den: 1001 },
  { num: 15, den: 1 },
  { num: 60, den: 1 },
);

const evenSide = (least: number, most: number) =>
  fc.integer({ min: least / 2, max: most / 2 }).map((half) => 2 * half);
export const size: fc.Arbitrary<Size> = fc.record({ width: evenSide(64, 320), height: evenSide(64, 240) });

const key = fc.option(fc.constant(firstKey('#3fae62')), { nil: null });
const place: fc.Arbitrary<CameraPlace> = fc
  .record({
    shape: fc.constantFrom('rectangle' as const, 'rounded' as const, 'circle' as const, 'tall' as const),
    corner: fc.constantFrom('top-left' as const, 'bottom-right' as const),
    mirror: fc.boolean(),
    border: fc.option(fc.constant({ width: 0.01, colour: '#ffffff' }), { nil: null }),
    key,
  })
  .map((looks) => ({ ...FIRST_PLACE, ...looks }));
export const layout: fc.Arbitrary<Layout> = fc.oneof(
  fc.constant({ kind: 'screen' as const }),
  fc.record({ kind: fc.constant('camera' as const), mirror: fc.boolean(), key }),
  fc.record({ kind: fc.constant('corner' as const), place }),
  fc.record({
    kind: fc.constant('side-by-side' as const),
    camera: fc.constantFrom('left' as const, 'right' as const),
    mirror: fc.boolean(),
    key,
  }),
);

/** How long every made-up take is. */
export const TAKE_US = 20_000_000;

export const pictureInput = (name: string): fc.Arbitrary<PictureInput> =>
  fc
    .record({
      size,
      startUs: fc.integer({ min: 0, max: TAKE_US - 1 }),
      lengthUs: fc.integer({ min: 1, max: TAKE_US }),
    })
    .map(({ lengthUs, ...rest }) => ({ path: `/takes/${name}`, endUs: rest.startUs + lengthUs, ...rest }));

const recorded = (name: string): fc.Arbitrary<RecordedPicture> =>
  pictureInput(name).map((input) => ({ ...input, timesUs: [input.startUs], packets: [] }));
const sound: fc.Arbitrary<SoundInput> = fc
  .record({
    track: fc.constantFrom('voice' as const, 'app-sound' as const),
    startUs: fc.integer({ min: 0, max: 1_000_000 }),
    channels: fc.constantFrom(1, 2),
  })
  .map((input) => ({ ...input, path: `/takes/${input.track}`, endUs: TAKE_US, encoderDelayUs: 6500 }));

const RATE: FrameRate = { num: 30, den: 1 };
/** What can be copied: 20 s at 30 fps with a keyframe every two seconds. */
export const copySource = (what: CopySource['what'], { width, height }: Size): CopySource => {
  const timesUs = Array.from({ length: 600 }, (_, n) => frameTimeUs(n, RATE));
  return {
    ...{ what, path: `/takes/${what}`, shiftUs: 0, timesUs, reordered: false, bytes: 1_000_000 },
    keyframesUs: timesUs.filter((_, n) => n % 60 === 0),
    video: {
      ...{ codec: 'h264', profile: 'High', level: 31, width, height, pixelFormat: 'yuv420p' },
      ...{ squarePixels: true, progressive: true, constantRate: true, rate: RATE },
      ...{ frames: 600, longestKeyframeGapS: 2 },
    },
  };
};

export const renderTake = (id: TakeId): fc.Arbitrary<RenderTake> =>
  fc
    .record({
      size,
      screens: fc.array(recorded('screen'), { minLength: 1, maxLength: 2 }),
      cameras: fc.array(recorded('camera'), { maxLength: 2 }),
      sounds: fc.array(sound, { maxLength: 3 }),
      isCopyable: fc.boolean(),
    })
    .map(({ isCopyable, ...tracks }) => ({
      ...{ id, durationUs: TAKE_US, rate: RATE, bytes: 1_000_000, ...tracks },
      plain: { layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 }, path: '/takes/plain' },
      copies: isCopyable ? [copySource('plain', tracks.size), copySource('screen', tracks.size)] : [],
    }));

const pieceOf = (take: TakeId): fc.Arbitrary<Piece> =>
  fc
    .record({
      inUs: fc.integer({ min: 0, max: TAKE_US - 100_000 }),
      lengthUs: fc.integer({ min: 50_000, max: TAKE_US }),
      isHeld: fc.constantFrom(false, false, false, true),
    })
    .map(({ inUs, lengthUs, isHeld }) => ({
      ...{ take, inUs, outUs: Math.min(TAKE_US, inUs + lengthUs) },
      ...(isHeld && { heldUs: inUs }),
    }));

const share = fc.integer({ min: 0, max: 50 }).map((hundredths) => hundredths / 100);
export const area: fc.Arbitrary<Area> = fc.record({
  x: share,
  y: share,
  width: fc.constantFrom(0.1, 0.25, 0.5),
  height: fc.constantFrom(0.1, 0.25, 0.5),
});
/** Spans in order, none over another. */
const spansOf = <T>(what: fc.Arbitrary<T>): fc.Arbitrary<(T & { fromUs: number; toUs: number })[]> =>
  fc
    .array(fc.tuple(fc.integer({ min: 0, max: 4_000_000 }), fc.integer({ min: 1, max: 4_000_000 }), what), {
      maxLength: 3,
    })
    .map((all) => {
      let us = 0;
      return all.map(([gap, length, rest]) => {
        const fromUs = us + gap;
        us = fromUs + length;
        return { ...rest, fromUs, toUs: us };
      });
    });
export const zooms: fc.Arbitrary<Zoom[]> = spansOf(
  fc.record({ area, easeUs: fc.constantFrom(0, 400_000, 3_000_000) }),
);
export const covers: fc.Arbitrary<Cover[]> = spansOf(
  fc.record({ area, kind: fc.constantFrom('blur' as const, 'colour' as const) }),
);
const look = fc.record({
  brightness: fc.constantFrom(1, 1.2),
  contrast: fc.constantFrom(1, 0.9),
  saturation: fc.constantFrom(1, 0),
});
const looks: fc.Arbitrary<Looks> = fc.oneof(
  fc.constant(UNCHANGED_LOOKS),
  fc.record({ screen: look, camera: look }),
);
/** Points of an envelope in order, some of them at the same time. @param lengthUs none is later */
export const envelopes = (lengthUs: number): fc.Arbitrary<Envelope> =>
  fc
    .array(
      fc.record({
        atUs: fc.integer({ min: 0, max: lengthUs }),
        gainDb: fc.integer({ min: -60, max: 12 }),
      }),
      { maxLength: 6 },
    )
    .map((points) => [...points].sort((a, b) => a.atUs - b.atUs));
const effects = fc.record({
  envelopes: fc.record({ voice: envelopes(6_000_000), appSound: envelopes(6_000_000) }),
  speed: fc.constantFrom(1, 1, 0.25, 0.75, 1.5, 2, 8),
  entry: fc.option(
    fc.record({
      kind: fc.constantFrom('dissolve' as const, 'dip' as const),
      lengthUs: fc.constantFrom(40_000, 600_000, 5_000_000),
    }),
  ),
  ...{ zooms, covers, looks },
});

const SHOT_US = 20_000_000;
/** Any shot, of whatever was recorded. */
export const shot: fc.Arbitrary<Shot> = fc
  .record({
    screens: fc.array(pictureInput('screen'), { maxLength: 3 }),
    cameras: fc.array(pictureInput('camera'), { maxLength: 3 }),
    ...{ layout, rate: frameRate, zooms, covers, looks },
    originUs: fc.integer({ min: 0, max: SHOT_US }),
    speed: fc.constantFrom(0, 0.25, 1, 8),
    frames: fc.integer({ min: 1, max: 400 }),
  })
  .map(({ zooms, ...rest }) => ({ ...rest, views: views(zooms, SHOT_US) }));
export const opening: fc.Arbitrary<Opening> = fc.record({
  kind: fc.constantFrom('dissolve' as const, 'dip' as const),
  frames: fc.integer({ min: 1, max: 60 }),
  from: shot.map((from) => ({ ...from, frames: 1 })),
});

/** A cut of one or two takes, and these takes. It may be shorter than a frame. */
export const cutWithTakes: fc.Arbitrary<{ cut: Cut; takes: RenderTake[] }> = fc
  .constant([newTakeId(), newTakeId()] as const)
  .chain(([a, b]) =>
    fc.record({
      takes: fc.tuple(renderTake(a), renderTake(b)),
      cut: fc
        .array(
          fc.tuple(
            fc.record({
              id: fc.constant(newStepId()),
              title: fc.constantFrom('', 'Sowing'),
              pieces: fc.array(fc.oneof(pieceOf(a), pieceOf(b)), { minLength: 1, maxLength: 3 }),
              layout,
              gains: fc.record({ voiceDb: fc.constantFrom(0, 3), appSoundDb: fc.constant(0) }),
            }),
            fc.oneof(fc.constant({}), effects),
          ),
          { minLength: 1, maxLength: 3 },
        )
        .map(
          (steps): Cut => ({
            version: 4,
            marks: [],
            steps: steps.map(([step, more]) => ({ ...PLAIN_STEP, ...step, ...more })),
          }),
        ),
    }),
  );

/** A cut of one take that shows it as its plain video does: what may be copied. */
export const plainCut = (take: TakeId, pieces: readonly Piece[]): Cut => ({
  version: 4,
  marks: [],
  steps: [
    {
      ...PLAIN_STEP,
      ...{ id: newStepId(), title: '', pieces: pieces.map((piece) => ({ ...piece, take })) },
      ...{ layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 } },
    },
  ],
});
