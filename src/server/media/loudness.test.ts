import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { openLoudness } from '@/core/audio/loudness';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-loudness-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** What is heard, as ffmpeg's arguments; the last two are hard on true peaks and on the gate. */
const SOUNDS: Record<string, { input: string[]; channels: 1 | 2; rate: number }> = {
  'the practice voice': { input: ['-i', 'public/practice/voice.ogg'], channels: 1, rate: 48_000 },
  'the practice voice at 16 kHz': { input: ['-i', 'public/practice/voice.ogg'], channels: 1, rate: 16_000 },
  'pink noise in two channels': {
    input: ['-f', 'lavfi', '-i', 'anoisesrc=c=pink:a=0.4:d=8:seed=7,pan=stereo|c0=c0|c1=0.5*c0'],
    channels: 2,
    rate: 44_100,
  },
  'a tone whose peaks lie between its samples': {
    input: ['-f', 'lavfi', '-i', "aevalsrc='0.7*cos(2*PI*12000*t+PI/4)':s=48000:d=5"],
    channels: 1,
    rate: 48_000,
  },
  'speech and long silence': {
    input: ['-i', 'public/practice/voice.ogg', '-af', "volume='if(lt(mod(t,8),4),1,0.001)':eval=frame"],
    channels: 1,
    rate: 48_000,
  },
};

it.each(Object.entries(SOUNDS))(
  'agrees with the reference meter on %s',
  async (_, { input, channels, rate }) => {
    const raw = join(folder, 'sound.f32');
    const shape = ['-ac', String(channels), '-ar', String(rate), '-f', 'f32le', raw];
    await run('ffmpeg', ['-v', 'error', '-y', ...input, '-t', '30', ...shape]);
    const bytes = readFileSync(raw);
    const samples = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length / 4);
    const meter = openLoudness(rate, channels);
    const frames = Math.floor(samples.length / channels);
    // In pieces of another length than its steps, as devices give them.
    for (let from = 0; from < frames; from += 480) {
      const count = Math.min(480, frames - from);
      meter.push(
        Array.from({ length: channels }, (__, c) =>
          Float32Array.from({ length: count }, (___, i) => samples[(from + i) * channels + c] ?? 0),
        ),
      );
    }
    const read = ['-f', 'f32le', '-ar', String(rate), '-ac', String(channels), '-i', raw];
    const { stderr } = await run('ffmpeg', [
      '-nostats',
      ...read,
      '-af',
      'ebur128=peak=true',
      '-f',
      'null',
      '-',
    ]);
    const summary = stderr.slice(stderr.lastIndexOf('Summary:'));
    const figure = (name: string) => Number(new RegExp(`${name}:\\s+(-?[\\d.]+)`).exec(summary)?.[1]);
    expect(Math.abs(meter.integrated() - figure('I'))).toBeLessThanOrEqual(0.1);
    expect(Math.abs(meter.truePeak() - figure('Peak'))).toBeLessThanOrEqual(0.2);
    const last = [...stderr.matchAll(/S:\s*(-?[\d.]+)/g)].at(-1)?.[1];
    expect(Math.abs(meter.shortTerm() - Number(last))).toBeLessThanOrEqual(0.3);
  },
);
