import { expect, it } from 'vitest';
import { openMuting } from './muting';

const RATE = 48_000;
const ones = (frames: number) => [new Float32Array(frames).fill(1), new Float32Array(frames).fill(1)];

it('goes to silence over ten milliseconds and back, alike in every channel, whatever the chunks', () => {
  const muting = openMuting();
  expect(muting.apply(ones(100), RATE)[0]?.at(-1)).toBe(1);
  muting.set(true, false);
  const chunks = [100, 200, 180, 100].map((frames) => muting.apply(ones(frames), RATE));
  const left = chunks.flatMap(([plane]) => [...(plane ?? [])]);
  const right = chunks.flatMap(([, plane]) => [...(plane ?? [])]);
  expect(left).toEqual(right);
  for (let i = 1; i < left.length; i++) {
    const step = (left[i - 1] ?? 0) - (left[i] ?? 0);
    expect(step).toBeGreaterThanOrEqual(0);
    // No step is larger than a four hundred and eightieth of full scale: nothing clicks.
    expect(step).toBeLessThan(1 / 400);
  }
  // 0.01 s at 48 kHz.
  expect(left.slice(480)).toEqual(new Array(100).fill(0));
  expect(left[470]).toBeGreaterThan(0);
  muting.set(false, false);
  const back = muting.apply(ones(600), RATE)[0];
  expect(back?.[0]).toBeLessThan(0.01);
  expect(back?.at(-1)).toBe(1);
});

it('is silent from the first sample where nobody hears an edge', () => {
  const muting = openMuting();
  muting.set(true, true);
  expect(muting.isMuted()).toBe(true);
  expect(muting.apply(ones(10), RATE)[0]).toEqual(new Float32Array(10));
});
