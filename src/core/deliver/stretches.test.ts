import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type FrameRate, framesPerSecond, frameTimeUs } from '../base/rational';
import { UNCHANGED_LOOKS } from '../cut/looks';
import { DESTINATIONS, type Destination } from '../destination/destination';
import type { EncodedPart } from './picture-part';
import { keyframeFrames, madeCodec } from './quality';
import { inStretches } from './stretches';
import type { PictureInput } from './take-sources';
import { takeTimeOfFrame } from './timeline';

const TAKE_US = 8 * 3_600_000_000;
const input = (startUs: number, endUs: number): PictureInput => ({
  ...{ path: `/takes/${startUs}`, size: { width: 1280, height: 720 }, startUs, endUs },
});

type Given = {
  rate: FrameRate;
  destination: Destination;
  before: number;
  frames: number;
  speed: number;
  originUs: number;
};
const given: fc.Arbitrary<Given> = fc.record({
  rate: fc.constantFrom({ num: 30, den: 1 }, { num: 30_000, den: 1001 }, { num: 12, den: 1 }),
  destination: fc.constantFrom(...DESTINATIONS),
  before: fc.integer({ min: 0, max: 5000 }),
  frames: fc.integer({ min: 1, max: 120_000 }),
  speed: fc.constantFrom(0, 0.25, 1, 2, 8),
  originUs: fc.integer({ min: 0, max: 100_000_000 }),
});

/** A part with a picture in every tenth of it, a zoom and a cover, of a take whose screen changed once. */
function partOf(
  { rate, destination, before, frames, speed, originUs }: Given,
  changedUs: number,
): EncodedPart {
  const screens = [input(0, changedUs), input(changedUs, TAKE_US)];
  const lengthUs = frameTimeUs(frames, rate);
  const every = Math.max(1, Math.floor(frames / 10));
  return {
    ...{ kind: 'encode', name: 'picture-3', rate, frames, durationUs: lengthUs },
    atUs: frameTimeUs(before, rate),
    shot: {
      ...{ screens, cameras: [], layout: { kind: 'screen' }, rate, originUs, speed, frames },
      views: [{ atUs: Math.floor(lengthUs / 3), area: { x: 0, y: 0, width: 1, height: 1 } }],
      covers: [
        {
          ...{ fromUs: Math.floor(lengthUs / 4), toUs: Math.ceil((lengthUs * 3) / 4), kind: 'colour' },
          ...{ area: { x: 0, y: 0, width: 0.5, height: 0.5 } },
        },
      ],
      looks: UNCHANGED_LOOKS,
    },
    opening: null,
    encoder: { destination, crf: 30 },
    compared: { every, frames: Array.from({ length: Math.ceil(frames / every) }, (_, n) => n * every) },
  };
}

it('stretches follow one another, meet at keyframes and are an even number of lasting ones', () => {
  fc.assert(
    fc.property(given, (one) => {
      const part = partOf(one, TAKE_US / 2);
      const stretches = inStretches(part);
      const { rate, destination, before, frames } = one;
      const fps = framesPerSecond(rate);
      const every = keyframeFrames(destination, rate);
      const isWhole = madeCodec(destination) === 'av1' || one.speed === 0;
      if (isWhole || frames < 15 * fps) expect(stretches).toEqual([part]);
      else if (frames > 2 * (15 * fps + every)) expect(stretches.length % 2).toBe(0);
      let first = 0;
      for (const stretch of stretches) {
        expect(first % every).toBe(0);
        expect(stretch.atUs).toBe(frameTimeUs(before + first, rate));
        expect(stretch.durationUs).toBe(frameTimeUs(stretch.frames, rate));
        if (stretches.length > 1) expect(stretch.frames).toBeGreaterThan(7 * fps);
        first += stretch.frames;
      }
      expect(first).toBe(frames);
      expect(new Set(stretches.map(({ name }) => name)).size).toBe(stretches.length);
    }),
  );
});

it('each frame shows what it shows in the whole part, zoomed and covered as there, and is compared as there', () => {
  fc.assert(
    fc.property(given, fc.integer({ min: 0, max: 1000 }), (one, changes) => {
      const lastUs = one.originUs + frameTimeUs(one.frames, one.rate) * one.speed;
      const part = partOf(one, Math.floor((changes / 1000) * lastUs));
      const compared: number[] = [];
      let first = 0;
      for (const { shot, frames, compared: own } of inStretches(part)) {
        expect(shot.frames).toBe(frames);
        compared.push(...own.frames.map((n) => first + n));
        for (const n of [0, Math.floor(frames / 2), frames - 1]) {
          const us = takeTimeOfFrame(part.shot, first + n, part.rate);
          // Microseconds of rounding decide nothing: a border lies between two frames.
          const roundingUs = 1 + one.speed;
          expect(Math.abs(takeTimeOfFrame(shot, n, part.rate) - us)).toBeLessThanOrEqual(roundingUs);
          const ofTake = (inputs: readonly PictureInput[]) =>
            inputs
              .filter(({ startUs, endUs }) => startUs <= us - roundingUs && endUs > us + roundingUs)
              .map(({ path }) => path);
          expect(ofTake(shot.screens)).toEqual(ofTake(part.shot.screens));
          const isCovered = (covers: readonly { fromUs: number; toUs: number }[], atUs: number) =>
            covers.some(({ fromUs, toUs }) => fromUs <= atUs && toUs > atUs);
          const atUs = frameTimeUs(n, part.rate);
          const wholeUs = frameTimeUs(first + n, part.rate);
          const nearBorder = part.shot.covers.some(({ fromUs, toUs }) =>
            [fromUs, toUs].some((border) => Math.abs(border - wholeUs) <= 2),
          );
          if (!nearBorder) expect(isCovered(shot.covers, atUs)).toBe(isCovered(part.shot.covers, wholeUs));
          const intoView = (shot.views[0]?.atUs ?? 0) - atUs;
          expect(Math.abs(intoView - ((part.shot.views[0]?.atUs ?? 0) - wholeUs))).toBeLessThanOrEqual(1);
        }
        first += frames;
      }
      expect(compared).toEqual(part.compared.frames);
    }),
  );
});
