import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { newStepId, newTakeId } from '@/core/base/ids';
import { soundPiece } from '@/core/deliver/sound-piece';
import { makeSound } from './sound';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-sound-'));
afterAll(() => rmSync(folder, { recursive: true }));

const RATE = { num: 30, den: 1 };
const SAMPLES = 48_000 * 2;

/** A tone that is recorded for 1.5 s of a take, as the sound of frames of it. */
async function piecesOf(lengths: readonly number[]) {
  const path = join(folder, 'tone.mkv');
  const tone = ['-f', 'lavfi', '-i', 'sine=f=440:r=48000:d=1.5', '-c:a', 'flac', path];
  await run('ffmpeg', ['-v', 'error', '-y', ...tone]);
  const voice = {
    track: 'voice' as const,
    path,
    startUs: 0,
    endUs: 1_500_000,
    encoderDelayUs: 0,
    channels: 1,
  };
  let firstFrame = 0;
  return lengths.map((frames, i) => {
    const originUs = Math.round((firstFrame * 1e6) / 30);
    const piece = { take: newTakeId(), inUs: originUs, outUs: originUs + Math.round((frames * 1e6) / 30) };
    const gains = { voiceDb: 0, appSoundDb: 0 };
    const step = { id: newStepId(), title: '', pieces: [piece], layout: { kind: 'screen' as const }, gains };
    const pieced = { step, piece, firstFrame, frames, originUs, continues: i > 0 };
    firstFrame += frames;
    return soundPiece(pieced, [voice], ['voice'], null, RATE, false);
  });
}

it.each([
  ['one piece', [60]],
  ['pieces that go on where the one before ended', [17, 43]],
])('makes the sound of %s to the sample, silent where the track had ended', async (_, lengths) => {
  const path = join(folder, 'sound.mkv');
  const pieces = await piecesOf(lengths);
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
