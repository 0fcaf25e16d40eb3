import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { UNTREATED } from '@/core/audio/treatment';
import { type Denoiser, openTreatment, TREATMENT_RATE, treated } from '@/core/audio/treatment-line';
import { decibels, gainOf, peakOf } from '@/core/base/decibels';
import { loadDenoiser } from './denoiser';

const RATE = TREATMENT_RATE;
const tone = (hertz: number, seconds: number, db: number): Float32Array =>
  Float32Array.from(
    { length: RATE * seconds },
    (_, i) => gainOf(db) * Math.sin((2 * Math.PI * hertz * i) / RATE),
  );
const rmsDb = (samples: Float32Array): number =>
  10 * Math.log10(samples.reduce((sum, x) => sum + x * x, 0) / samples.length);
const none = (): Denoiser => {
  throw new Error('No noise is to be taken out.');
};
let denoiser: () => Denoiser = none;
beforeAll(async () => {
  const path = createRequire(import.meta.url).resolve('@sapphi-red/web-noise-suppressor/rnnoise_simd.wasm');
  denoiser = await loadDenoiser(new Uint8Array(readFileSync(path)));
});

describe('treatment', () => {
  it('the high-pass is 3 dB down at its corner, falls 12 dB an octave and leaves the voice alone', () => {
    const through = (hertz: number) => {
      const out = treated(tone(hertz, 2, -12), { ...UNTREATED, highPassHz: 80 }, none);
      return rmsDb(out.subarray(RATE)) - rmsDb(tone(hertz, 1, -12));
    };
    expect(through(80)).toBeCloseTo(-3.01, 1);
    expect(through(40)).toBeCloseTo(-12.3, 1);
    expect(through(20)).toBeCloseTo(-24.1, 0);
    expect(Math.abs(through(1000))).toBeLessThan(0.01);
  });

  it('the gate lets the whole of a word through, closes by 40 dB, and moves without a click', () => {
    const word = tone(200, 1, -20);
    const sound = new Float32Array(4 * RATE);
    for (let i = 0; i < sound.length; i++) sound[i] = gainOf(-70) * Math.sin((2 * Math.PI * 1000 * i) / RATE);
    sound.set(word, RATE);
    const out = treated(sound, { ...UNTREATED, gateDb: -50 }, none);
    expect(rmsDb(out.subarray(0, RATE / 2))).toBeCloseTo(rmsDb(sound.subarray(0, RATE / 2)) - 40, 0);
    // From its first sample on, but for the end of the opening.
    const [inside, kept] = [sound.subarray(RATE, 2 * RATE), out.subarray(RATE, 2 * RATE)];
    const off = inside.map((x, i) => x - (kept[i] as number));
    expect(decibels(peakOf(off))).toBeLessThan(-50);
    expect(rmsDb(out.subarray(3 * RATE))).toBeLessThan(-105);
    // What is quiet while it opens and closes changes from sample to sample no more than its own tone does.
    const steps = Float32Array.from(
      out.subarray(2 * RATE, 3 * RATE),
      (x, i) => x - (out[2 * RATE + i - 1] as number),
    );
    const own = Float32Array.from(
      sound.subarray(2 * RATE, 3 * RATE),
      (x, i) => x - (sound[2 * RATE + i - 1] as number),
    );
    expect(peakOf(steps.subarray(1))).toBeLessThan(peakOf(own.subarray(1)) * 1.05);
  });

  it('the compressor brings loud and quiet nearer by its ratio, and leaves what is under it alone', () => {
    const compressor = { thresholdDb: -30, ratio: 3, makeupDb: 0 };
    const level = (db: number) => {
      const out = treated(tone(1000, 2, db), { ...UNTREATED, compressor }, none);
      return decibels(peakOf(out.subarray(RATE)));
    };
    expect(level(-50)).toBeCloseTo(-50, 1);
    // Its detector follows the peaks of a tone a little from below.
    expect(level(-6) - level(-18)).toBeCloseTo(12 / 3, 0);
    expect(level(-6)).toBeGreaterThan(-30 + 24 / 3 - 0.5);
    expect(level(-6)).toBeLessThan(-30 + 24 / 3 + 2);
  });

  it('noise reduction takes noise out of the pauses of a voice, and leaves the voice where it was', () => {
    const file = ['-i', 'public/practice/voice.ogg', '-t', '12', '-f', 'f32le', '-ac', '1', '-ar', `${RATE}`];
    const raw = execFileSync('ffmpeg', ['-v', 'error', ...file, '-'], { maxBuffer: 1e8 });
    const voice = new Float32Array(new Uint8Array(raw).buffer);
    let seed = 1;
    const noise = () => {
      seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
      return gainOf(-40) * (seed / 1_073_741_824 - 1);
    };
    const noisy = voice.map((x) => x + noise());
    const out = treated(noisy, { ...UNTREATED, denoise: true }, denoiser);
    const block = RATE / 10;
    const pauses = Array.from(
      { length: Math.floor(voice.length / block) - 1 },
      (_, i) => (i + 1) * block,
    ).filter((at) => rmsDb(voice.subarray(at, at + block)) < -65);
    expect(pauses.length).toBeGreaterThan(5);
    const falls = pauses.map(
      (at) => rmsDb(noisy.subarray(at, at + block)) - rmsDb(out.subarray(at, at + block)),
    );
    expect(falls.reduce((a, b) => a + b, 0) / falls.length).toBeGreaterThan(15);
    expect(Math.abs(rmsDb(out) - rmsDb(voice))).toBeLessThan(0.5);
    const alike = (lag: number) => {
      let sum = 0;
      for (let i = 2 * RATE; i < 3 * RATE; i++) sum += (voice[i] as number) * (out[i + lag] as number);
      return sum;
    };
    const lags = Array.from({ length: 41 }, (_, i) => i - 20);
    expect(Math.abs(lags.reduce((best, lag) => (alike(lag) > alike(best) ? lag : best)))).toBeLessThan(3);
  });

  it('comes late by what it says, whatever the blocks it is given', () => {
    const settings = { highPassHz: 80, denoise: true, gateDb: -60, compressor: null };
    const sound = tone(300, 1, -20);
    const whole = treated(sound, settings, denoiser);
    const line = openTreatment(settings, denoiser);
    const padded = new Float32Array(sound.length + line.delay);
    padded.set(sound);
    const parts: number[] = [];
    for (let at = 0; at < padded.length; at += 441) parts.push(...line.push(padded.subarray(at, at + 441)));
    expect(parts.slice(line.delay)).toEqual([...whole]);
  });
});
