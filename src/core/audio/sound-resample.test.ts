import { expect, it } from 'vitest';
import { openSoundResampler } from './sound-resample';

const tone = (hz: number, rate: number, seconds: number) =>
  Float32Array.from({ length: rate * seconds }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rate));

/** Everything at another rate, pushed in pieces as devices give them, with the time of its first sample. */
function resampled(samples: Float32Array, from: number, to: number) {
  const resampler = openSoundResampler(from, to, 1);
  const made: number[] = [];
  let [at, beganS]: [number, number | null] = [0, null];
  for (let i = 0; at < samples.length; i++) {
    const piece = samples.subarray(at, at + 441 + (i % 3) * 40);
    const { planes, offsetS } = resampler.push([piece]);
    if (beganS === null && (planes[0]?.length ?? 0) > 0) beganS = at / from + offsetS;
    // Not spread: there may be more samples than a call has room for.
    for (const value of planes[0] ?? []) made.push(value);
    at += piece.length;
  }
  return { made: Float32Array.from(made), beganS };
}

const rmsDb = (samples: Float32Array) =>
  10 * Math.log10(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);

it('keeps what a rate can carry to a hundredth of its level, and folds nothing: 60 dB down and more', () => {
  for (const [from, to] of [
    [48_000, 16_000],
    [48_000, 24_000],
    [48_000, 44_100],
    [44_100, 48_000],
  ] as const) {
    const { made, beganS } = resampled(tone(1000, from, 1), from, to);
    expect(beganS).toBeCloseTo(0, 6);
    expect(made.length).toBeGreaterThan(to * 0.99);
    const middle = made.subarray(to / 5, (to * 4) / 5);
    expect(Math.abs(rmsDb(middle) + 3.01)).toBeLessThan(0.05);
    // Sample for sample the same tone: nothing is late.
    const off = middle.map((value, i) => value - Math.sin((2 * Math.PI * 1000 * (i + to / 5)) / to));
    expect(rmsDb(off)).toBeLessThan(-60);
  }
  const { made } = resampled(tone(10_000, 48_000, 1), 48_000, 16_000);
  expect(rmsDb(made.subarray(1600, 14_400))).toBeLessThan(-63);
});
