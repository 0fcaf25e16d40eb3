import fc from 'fast-check';
import { expect, it } from 'vitest';
import { sameBytes } from '../../../tests/support/bytes';
import { joinedSamples } from './planes';
import { openStretch } from './stretch';

const RATE = 48_000;
const speeds = fc.constantFrom(0.25, 0.5, 0.75, 1.25, 1.5, 2);
const tone = (hz: number, seconds: number) =>
  Float32Array.from({ length: seconds * RATE }, (_, n) => Math.sin((2 * Math.PI * hz * n) / RATE) / 2);

/** Gives a sound in pieces of any lengths. */
function stretched(
  sound: Float32Array,
  speed: number,
  pieces: readonly number[],
  channels = 1,
): Float32Array[] {
  const stretch = openStretch(speed, RATE, channels);
  const out: Float32Array[][] = Array.from({ length: channels }, () => []);
  const take = (planes: Float32Array[]) => {
    for (const [channel, plane] of planes.entries()) out[channel]?.push(plane);
  };
  let at = 0;
  for (let i = 0; at < sound.length; i++) {
    const part = sound.subarray(at, at + (pieces[i % pieces.length] ?? 1));
    take(stretch.push(Array.from({ length: channels }, () => part)));
    at += part.length;
  }
  take(stretch.end());
  return out.map(joinedSamples);
}

const pieces = fc.array(fc.integer({ min: 1, max: 20_000 }), { minLength: 1, maxLength: 5 });

it('is as long as the speed says, to the sample, whatever pieces it comes in', () => {
  fc.assert(
    fc.property(speeds, pieces, (speed, pieces) => {
      const [whole] = stretched(tone(220, 0.5), speed, [RATE]);
      const [parted] = stretched(tone(220, 0.5), speed, pieces);
      expect(whole?.length).toBe(Math.round((0.5 * RATE) / speed));
      expect(sameBytes(parted, whole)).toBe(true);
    }),
    { numRuns: 20 },
  );
});

it.each([0.25, 0.5, 0.75, 1.5, 2])('keeps the pitch of a tone and clicks nowhere at speed %s', (speed) => {
  const hz = 330;
  const [sound = new Float32Array()] = stretched(tone(hz, 2), speed, [11_520]);
  let crossings = 0;
  let steepest = 0;
  for (let n = 1; n < sound.length; n++) {
    const [a, b] = [sound[n - 1] ?? 0, sound[n] ?? 0];
    if (a < 0 && b >= 0) crossings++;
    steepest = Math.max(steepest, Math.abs(b - a));
  }
  expect(Math.abs(crossings / (sound.length / RATE) - hz)).toBeLessThan(hz * 0.01);
  // No two samples of the tone itself lie farther apart than this.
  expect(steepest).toBeLessThan(((2 * Math.PI * hz) / RATE / 2) * 1.15);
});

// At a quarter of the speed a window of 30 ms is heard at eight places, over 90 ms.
it.each([
  [0.25, 0.09],
  [0.5, 0.02],
  [0.75, 0.02],
  [1.5, 0.02],
  [2, 0.02],
])('at speed %s has a knock within %s s of where the picture has it', (speed, within) => {
  const sound = new Float32Array(3 * RATE);
  for (let n = 0; n < 400; n++) sound[RATE + n] = Math.sin(n / 3) * Math.exp(-n / 80);
  const [out = new Float32Array()] = stretched(sound, speed, [9600]);
  const loudest = out.reduce((best, value, n) => (Math.abs(value) > Math.abs(out[best] ?? 0) ? n : best), 0);
  expect(Math.abs(loudest / RATE - 1 / speed)).toBeLessThan(within);
});

it('treats channels alike, so that a voice in the middle stays there', () => {
  const [left, right] = stretched(tone(200, 0.4), 1.5, [4800], 2);
  expect(left).toEqual(right);
});
