import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePartCommand, filmPath } from '@/core/commands/encode-part';
import type { GraphFile } from '@/core/commands/growing';
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
    const [part] = file?.picture?.parts ?? [];
    const [sound] = file?.sound?.pieces ?? [];
    if (!file?.picture || part?.kind !== 'encode' || !sound || !file.sound)
      throw new Error('The plan has one picture and one sound.');
    const { encoding } = file.sound;
    const { args, files } = encodePartCommand(part, file.picture, folder);
    const soundArgs = soundPieceArgs(sound, encoding.channels) ?? [];
    const raw = join(folder, 'sound.f32');
    const began = performance.now();
    const bareArgs = args.slice(0, args.indexOf(filmPath(part, folder)) + 1);
    await withGraphFiles(files.map(withoutReference), () => runFfmpeg(['-y', ...bareArgs]));
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

/** The same graph without the pictures that are kept for comparing. */
function withoutReference(file: GraphFile): GraphFile {
  if (!file.path.endsWith('.graph')) return file;
  const graph = new TextDecoder()
    .decode(file.content)
    .replace(/\[picture\]split=2\[made\]\[before\];\[made\]/, '[picture]')
    .replace(/;\[before\].*$/, '');
  return { ...file, content: new TextEncoder().encode(graph) };
}
