// What a render costs beyond one plain ffmpeg that composes and encodes the same pictures and mixes the same sound.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodePartCommand, filmPath } from '@/core/commands/encode-part';
import { soundEncoderArgs } from '@/core/commands/sound-encoder';
import { rawMix, soundPieceArgs } from '@/core/commands/sound-graph';
import type { Cut } from '@/core/cut/cut';
import { planRender } from '@/core/deliver/plan';
import { firstCrf } from '@/core/deliver/quality';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { withGraphFiles } from '@/server/delivery/graph-files';
import { bench, quick } from './bench';
import { runFfmpeg } from './commands';
import { makeHere, wholeCut, withRecorded } from './parcels';

/** What is made: the destination, and how much of the take. */
const JOBS = {
  overheadOverBare: { destination: 'course-platform', seconds: null },
  h264OverBare: { destination: 'message-attachment', seconds: null },
  shortOverBare: { destination: 'message-attachment', seconds: 10 },
} as const;

bench('render', { most: { overheadOverBare: 1.05, h264OverBare: 1.1, shortOverBare: 1.4 } }, ({ url }) =>
  withRecorded(url, PRACTICE_RIG, quick ? 20 : 60, async (recorded) => {
    const figures: Record<string, number> = {};
    for (const [name, { destination, seconds }] of Object.entries(JOBS)) {
      const cut = firstSeconds(wholeCut(recorded), seconds);
      const wanted = DESTINATIONS.find(({ id }) => id === destination);
      if (!wanted) throw new Error(`There is no destination ${destination}.`);
      // Whatever it is: one attempt.
      const unlimited = { ...wanted, maxBytes: null };
      const { seconds: tookS, facts } = await makeHere(recorded, cut, unlimited);
      if (facts.crf !== firstCrf(unlimited)) throw new Error(`${name} took more than one attempt.`);
      const bareS = await bare(cut, unlimited);
      Object.assign(figures, { [name]: tookS / bareS, [`${name}S`]: tookS, [`${name}BareS`]: bareS });
    }
    return figures;
  }),
);

/** A cut up to a time; all of it without one. */
const firstSeconds = (cut: Cut, seconds: number | null): Cut => ({
  ...cut,
  steps: cut.steps.map((step) => ({
    ...step,
    pieces: step.pieces.map((piece) => ({
      ...piece,
      outUs: seconds === null ? piece.outUs : Math.min(piece.outUs, piece.inUs + seconds * 1e6),
    })),
  })),
});

/** Composes and encodes the picture, mixes and encodes the sound, one after the other and nothing else. @returns seconds */
async function bare(cut: Cut, destination: Destination): Promise<number> {
  const { readTakesOf } = await import('@/server/delivery/parcels');
  const folder = mkdtempSync(join(tmpdir(), 'otter-bare-'));
  try {
    const [file] = planRender(cut, destination, await readTakesOf(cut)).files;
    const [part] = file?.picture?.parts ?? [];
    const [sound] = file?.sound?.pieces ?? [];
    if (!file?.picture || part?.kind !== 'encode' || !sound || !file.sound)
      throw new Error('The plan has one picture and one sound.');
    const { encoding } = file.sound;
    const { args, files } = encodePartCommand(part, file.picture, folder);
    const soundArgs = soundPieceArgs(sound, encoding.channels) ?? [];
    const raw = join(folder, 'sound.f32');
    const began = performance.now();
    await withGraphFiles(files, () => runFfmpeg(['-y', ...withoutReference(args, filmPath(part, folder))]));
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

/** The same command without the pictures that are kept for comparing. */
function withoutReference(args: readonly string[], output: string): string[] {
  return args
    .slice(0, args.indexOf(output) + 1)
    .map((arg) =>
      arg.replace(/\[picture\]split=2\[made\]\[before\];\[made\]/, '[picture]').replace(/;\[before\].*$/, ''),
    );
}
