import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { newStepId, newTakeId, type TakeId } from '@/core/base/ids';
import { PLAIN_STEP, type Step } from '@/core/cut/cut';
import { stepLoudness } from '@/core/cut/step-loudness';
import { measureProgrammes } from './reference-meter';
import { soundCurves } from './sound-curves';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-curves-'));
afterAll(() => rmSync(folder, { recursive: true }));
const signal = new AbortController().signal;

const VOICE = 'public/practice/voice.ogg';

const step = (take: TakeId, pieces: readonly [number, number][], more: Partial<Step> = {}): Step => ({
  ...PLAIN_STEP,
  ...{ id: newStepId(), title: '', layout: { kind: 'screen' }, gains: { voiceDb: 0, appSoundDb: 0 } },
  pieces: pieces.map(([inS, outS]) => ({ take, inUs: inS * 1e6, outUs: outS * 1e6 })),
  ...more,
});

it('a step is as loud as the reference meter says of the same stretches, with its gain and its envelope', async () => {
  const take = newTakeId();
  const { loudness } = await soundCurves([{ track: 'voice', startUs: 0, path: VOICE, channels: 1 }], signal);
  const curve = (id: TakeId) => (id === take ? loudness.voice : undefined);
  const measured = async (filter: string) => (await measureProgrammes(['-i', VOICE], [filter]))[0] ?? 0;

  const part = step(take, [
    [3, 9],
    [12, 20],
  ]);
  const chosen = "aselect='between(t,3,9)+between(t,12,20)',asetpts=N/SR/TB";
  const plain = stepLoudness(part, 'voice', curve) ?? 0;
  expect(Math.abs(plain - (await measured(chosen)))).toBeLessThan(0.3);

  const louder = step(
    take,
    [
      [3, 9],
      [12, 20],
    ],
    { gains: { voiceDb: -7, appSoundDb: 0 } },
  );
  expect(stepLoudness(louder, 'voice', curve)).toBeCloseTo(plain - 7, 3);

  const faded = step(take, [[3, 9]], {
    envelopes: {
      voice: [
        { atUs: 0, gainDb: -20 },
        { atUs: 6_000_000, gainDb: 0 },
      ],
      appSound: [],
    },
  });
  const fade =
    "aselect='between(t,3,9)',asetpts=N/SR/TB,asetnsamples=48,volume='pow(10,(-20+20*t/6)/20)':eval=frame";
  expect(Math.abs((stepLoudness(faded, 'voice', curve) ?? 0) - (await measured(fade)))).toBeLessThan(0.4);
  // Of the other sound nothing is known.
  expect(stepLoudness(part, 'app-sound', () => undefined)).toBeNull();
});

it('a sound that came back lies where it came back, with silence before it, in one channel or two', async () => {
  const path = join(folder, 'tone.flac');
  const tone = "aevalsrc='sin(2*PI*997*t)/2|sin(2*PI*997*t)/2':s=48000:d=1";
  await run('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', tone, '-c:a', 'flac', path]);
  const again = { track: 'voice', path, channels: 2 };
  const { tracks, loudness, perSecond } = await soundCurves(
    [
      { ...again, startUs: 500_000 },
      { ...again, startUs: 3_000_000 },
    ],
    signal,
  );
  expect(perSecond).toBe(50);
  const [peaks = [], steps = []] = [tracks.voice, loudness.voice];
  expect(peaks.length).toBe(200);
  expect(steps.length).toBe(40);
  const isSilent = (value: number, silence: number) => value === silence;
  expect(peaks.map((peak) => !isSilent(peak, 0))).toEqual(
    Array.from({ length: 200 }, (_, i) => (i >= 25 && i < 75) || i >= 150),
  );
  expect(Math.max(...peaks)).toBe(128);
  // A tone of 997 Hz at −6 dBFS in both channels: −6.02 LUFS (BS.1770-4 annex 1: 0 dBFS in one channel is −3.01).
  expect(steps.slice(7, 15).every((value) => Math.abs(value + 60) <= 1)).toBe(true);
  expect(steps.slice(16, 30).every((value) => isSilent(value, -1000))).toBe(true);
});
