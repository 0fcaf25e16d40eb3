import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { newStepId, newTakeId } from '@/core/base/ids';
import { PLAIN_STEP, type Step } from '@/core/cut/cut';
import { envelopeDb } from '@/core/cut/envelope';
import { soundPiece } from '@/core/deliver/sound-piece';
import { measureLoudness } from '../media/reference-meter';
import { makeSound } from './sound';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-sound-'));
afterAll(() => rmSync(folder, { recursive: true }));

const RATE = { num: 30, den: 1 };
const SAMPLES = 48_000 * 2;

async function record(name: string, expression: string, lengthS: number): Promise<string> {
  const path = join(folder, name);
  const made = ['-f', 'lavfi', '-i', `aevalsrc='${expression}':s=48000:d=${lengthS}`, '-c:a', 'flac', path];
  await run('ffmpeg', ['-v', 'error', '-y', ...made]);
  return path;
}

/** A made-up sound that is recorded for some seconds of a take, as the sound of frames of it. */
async function piecesOf(
  lengths: readonly number[],
  expression: string,
  recordedS: number,
  speed = 1,
  more: Partial<Step> = {},
) {
  const path = await record('recorded.mkv', expression, recordedS);
  const voice = {
    track: 'voice' as const,
    path,
    startUs: 0,
    endUs: recordedS * 1e6,
    encoderDelayUs: 0,
    channels: 1,
  };
  let firstFrame = 0;
  return lengths.map((frames, i) => {
    const originUs = Math.round((firstFrame * 1e6 * speed) / 30);
    const outUs = originUs + Math.round((frames * 1e6 * speed) / 30);
    const piece = { take: newTakeId(), inUs: originUs, outUs };
    const gains = { voiceDb: 0, appSoundDb: 0 };
    const layout = { kind: 'screen' as const };
    const step = {
      ...PLAIN_STEP,
      id: newStepId(),
      title: '',
      pieces: [piece],
      layout,
      gains,
      speed,
      ...more,
    };
    const at = { firstFrame, frames, originUs, speed, stepUs: 0, stepSpeed: speed };
    const pieced = { ...at, step, piece, continues: i > 0 };
    firstFrame += frames;
    return soundPiece(pieced, [voice], ['voice'], null, RATE, false);
  });
}

it.each([
  ['one piece', [60]],
  ['pieces that go on where the one before ended', [17, 43]],
])('makes the sound of %s to the sample, silent where the track had ended', async (_, lengths) => {
  const path = join(folder, 'sound.mkv');
  const pieces = await piecesOf(lengths, 'sin(2*PI*440*t)/8', 1.5);
  const encoding = { codec: 'pcm', kbps: 2304, sampleRate: 48_000, channels: 2 } as const;
  await makeSound({ pieces, encoding, loudness: null, copied: null }, path, new AbortController().signal);
  const args = ['-v', 'error', '-i', path, '-f', 's16le', '-'];
  const { stdout } = await run('ffmpeg', args, { encoding: 'buffer', maxBuffer: 2 ** 22 });
  expect(stdout.length).toBe(SAMPLES * 4);
  const left = Array.from({ length: SAMPLES }, (_, n) => stdout.readInt16LE(n * 4));
  // The tone goes through the border of the pieces without a step: no two samples of 440 Hz lie farther apart.
  const amplitude = Math.max(...left);
  const steepest = Math.max(...left.slice(1, 71_000).map((v, n) => Math.abs(v - (left[n] ?? 0))));
  expect(steepest).toBeLessThan(amplitude * 2 * Math.PI * (440 / 48_000) * 1.05 + 2);
  expect(left.slice(SAMPLES - 20_000).every((v) => v === 0)).toBe(true);
});

it.each([
  // Short words with sharp beginnings over a quiet tone: what a limiter takes most of.
  ['words with sharp beginnings', '0.03*sin(2*PI*180*t)*(1+20*exp(-60*mod(t,0.31)))'],
  ['an even tone', '0.02*sin(2*PI*440*t)'],
])('brings %s to the loudness that was asked', async (name, expression) => {
  const pieces = await piecesOf([120], expression, 4);
  const path = join(folder, `${name}.m4a`);
  const encoding = { codec: 'aac', kbps: 96, sampleRate: 48_000, channels: 2 } as const;
  const loudness = { lufs: -16, toleranceLu: 0.5, truePeakDbtp: -1 };
  await makeSound({ pieces, encoding, loudness, copied: null }, path, new AbortController().signal);
  const measured = await measureLoudness(['-i', path]);
  expect(Math.abs((measured?.lufs ?? 0) + 16), name).toBeLessThanOrEqual(0.3);
  expect(measured?.truePeakDbtp).toBeLessThanOrEqual(-1);
});

/** Samples of the left channel of a sound made of pieces. */
async function samplesOf(
  pieces: Awaited<ReturnType<typeof piecesOf>>,
  signal = new AbortController().signal,
): Promise<number[]> {
  const path = join(folder, 'faster.mkv');
  const encoding = { codec: 'pcm', kbps: 2304, sampleRate: 48_000, channels: 2 } as const;
  await makeSound({ pieces, encoding, loudness: null, copied: null }, path, signal);
  const args = ['-v', 'error', '-i', path, '-f', 's16le', '-'];
  const { stdout } = await run('ffmpeg', args, { encoding: 'buffer', maxBuffer: 2 ** 22 });
  return Array.from({ length: stdout.length / 4 }, (_, n) => stdout.readInt16LE(n * 4));
}

// At a quarter of the speed what is shorter than a window is heard for longer.
it.each([
  [0.25, 0.09],
  [0.5, 0.02],
  [0.75, 0.02],
  [1.5, 0.02],
  [2, 0.02],
])(
  'at speed %s a knock stays within %s s of its picture, and the length is right to the sample',
  async (speed, within) => {
    // A knock when a second of the take is over.
    const knock = 'sin(2*PI*900*t)*exp(-80*(t-1))*gte(t,1)*lt(t,1.1)';
    const samples = await samplesOf(await piecesOf([speed < 0.5 ? 150 : 60, 30], knock, 6, speed));
    expect(samples.length).toBe(((speed < 0.5 ? 180 : 90) * 48_000) / 30);
    const loudest = samples.reduce(
      (best, value, n) => (Math.abs(value) > Math.abs(samples[best] ?? 0) ? n : best),
      0,
    );
    expect(Math.abs(loudest / 48_000 - 1 / speed)).toBeLessThan(within);
  },
);

// Where one sound ended shortly before the other and both shortly before their piece, FFmpeg waited for ever.
it.each([
  [4.58, 4.56],
  [4.56, 4.58],
  [4.5, 4.5],
])(
  'a voice of %s s and a sound of %s s end within 4.6 s at twice the speed: each is heard to its end, then it is silent',
  async (voiceS, appS) => {
    const app = await record('app.mkv', 'sin(2*PI*440*t)/8', appS);
    const pieces = await piecesOf([69], 'sin(2*PI*440*t)/8', voiceS, 2);
    const both = pieces.map(({ inputs, ...piece }) => ({
      ...piece,
      inputs: inputs.flatMap((voice) => [voice, { ...voice, track: 'app-sound' as const, path: app }]),
    }));
    const samples = await samplesOf(both, AbortSignal.timeout(20_000));
    expect(samples.length).toBe((69 * 48_000) / 30);
    const end = samples.findLastIndex((value) => Math.abs(value) > 300);
    expect(Math.abs(end / 48_000 - Math.max(voiceS, appS) / 2)).toBeLessThan(0.03);
  },
);

it('is silent where it would run faster than anybody understands', async () => {
  const samples = await samplesOf(await piecesOf([60], 'sin(2*PI*440*t)', 6, 4));
  expect(samples.length).toBe(SAMPLES);
  expect(samples.every((value) => value === 0)).toBe(true);
});

it('moves the gain as the envelope of the step says, also at another speed', async () => {
  const envelope = [
    { atUs: 0, gainDb: 0 },
    { atUs: 1_000_000, gainDb: -20 },
    { atUs: 2_000_000, gainDb: -20 },
    { atUs: 2_000_000, gainDb: 6 },
    { atUs: 3_000_000, gainDb: -60 },
  ];
  for (const speed of [1, 2]) {
    const step = { envelopes: { voice: envelope, appSound: [] } };
    const pieces = await piecesOf([120 / speed], 'sin(2*PI*1000*t)/4', 5, speed, step);
    const samples = await samplesOf(pieces);
    // From the middle of one ramp to the next, away from where it leaps and where it is lost in the rounding of samples.
    for (const us of [250_000, 500_000, 900_000, 1_500_000, 2_200_000, 2_400_000]) {
      const at = Math.round((us * 48) / 1000 / speed);
      const part = samples.slice(at - 480, at + 480).map((value) => value / 32_768);
      const rms = Math.sqrt(part.reduce((sum, value) => sum + value * value, 0) / part.length);
      const db = 20 * Math.log10((rms * Math.SQRT2) / 0.25);
      expect(Math.abs(db - envelopeDb(envelope, us)), `${us} µs at speed ${speed}`).toBeLessThan(0.5);
    }
  }
});
