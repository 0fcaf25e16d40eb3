import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePartCommand } from '@/core/commands/encode-part';
import { soundEncoderArgs } from '@/core/commands/sound-encoder';
import { rawMix, soundPieceArgs } from '@/core/commands/sound-graph';
import type { Cut } from '@/core/cut/cut';
import { planRender } from '@/core/deliver/plan';
import type { Destination } from '@/core/destination/destination';
import { withGraphFiles } from '@/server/delivery/graph-files';
import { runFfmpeg } from './commands';

/**
 * Composes and encodes the picture, mixes and encodes the sound, one after the other and nothing else.
 * @param crf of the picture, where it is not what its destination begins with
 * @returns seconds
 */
export async function bare(cut: Cut, destination: Destination, crf?: number): Promise<number> {
  const { readTakesOf } = await import('@/server/delivery/parcels');
  const folder = mkdtempSync(join(tmpdir(), 'otter-bare-'));
  try {
    const [file] = planRender(cut, destination, await readTakesOf(cut), crf).files;
    const parts = file?.picture?.parts ?? [];
    const [part] = parts;
    const [sound] = file?.sound?.pieces ?? [];
    if (!file?.picture || part?.kind !== 'encode' || !sound || !file.sound)
      throw new Error('The plan has one picture and one sound.');
    const { encoding } = file.sound;
    // In one go: the job may encode it in stretches.
    const frames = parts.reduce((sum, one) => sum + (one.kind === 'encode' ? one.frames : 0), 0);
    const compared = { ...part.compared, frames: [] };
    const whole = { ...part, frames, shot: { ...part.shot, frames }, compared };
    const { args, files } = encodePartCommand(whole, file.picture, folder);
    const soundArgs = soundPieceArgs(sound, encoding.channels) ?? [];
    const raw = join(folder, 'sound.f32');
    const began = performance.now();
    await withGraphFiles(files, () => runFfmpeg(['-y', ...args]));
    await runFfmpeg(['-y', ...soundArgs, '-c:a', 'pcm_f32le', ...rawMix(encoding.channels), raw]);
    await runFfmpeg([
      '-y',
      ...rawMix(encoding.channels),
      '-i',
      raw,
      ...soundEncoderArgs(encoding),
      join(folder, 'sound.m4a'),
    ]);
    return (performance.now() - began) / 1000;
  } finally {
    rmSync(folder, { recursive: true });
  }
}
