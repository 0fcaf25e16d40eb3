// What a render costs beyond one plain ffmpeg that composes and encodes the same pictures and mixes the same sound.

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DESTINATIONS } from '@/core/destination';
import { planRender } from '@/core/render/plan';
import { rawMix } from '@/core/render/sound-graph';
import { PRACTICE_RIG } from '@/core/rig';
import { withGraphFiles } from '@/server/render/graph-files';
import { bench, quick } from './bench';
import { runFfmpeg } from './commands';
import { makeHere, wholeCut, withRecorded } from './parcels';

bench('render', { most: { overheadOverBare: 1.05, h264OverBare: 1.1 } }, ({ url }) =>
  withRecorded(url, PRACTICE_RIG, quick ? 10 : 60, async (recorded) => {
    const cut = wholeCut(recorded);
    const { readTakesOf } = await import('@/server/parcels');
    const takes = await readTakesOf(cut);
    const folder = mkdtempSync(join(tmpdir(), 'otter-bare-'));
    const ratios: Record<string, number> = {};
    try {
      for (const id of ['course-platform', 'message-attachment']) {
        const destination = DESTINATIONS.find((each) => each.id === id);
        if (!destination) throw new Error(`There is no destination ${id}.`);
        const { seconds, facts } = await makeHere(recorded, cut, { ...destination, maxBytes: null });
        const [file] = planRender(cut, destination, takes, folder).files;
        const [part] = file?.picture?.parts ?? [];
        const [sound] = file?.sound?.pieces ?? [];
        if (part?.kind !== 'encode' || !sound?.args)
          throw new Error('The plan has one picture and one sound.');
        const raw = join(folder, 'sound.f32');
        const began = performance.now();
        await withGraphFiles(part.files, () => runFfmpeg(['-y', ...withoutReference(part.args, part.path)]));
        await runFfmpeg(['-y', ...sound.args, '-c:a', 'pcm_f32le', ...rawMix(2), raw]);
        await runFfmpeg([
          '-y',
          ...rawMix(2),
          '-i',
          raw,
          ...(file?.sound?.encoder ?? []),
          join(folder, 'sound.m4a'),
        ]);
        ratios[id] = seconds / ((performance.now() - began) / 1000);
        ratios[`${id}S`] = seconds;
        ratios[`${id}Clarity`] = facts.clarity?.mean ?? 0;
      }
    } finally {
      rmSync(folder, { recursive: true });
    }
    return {
      overheadOverBare: ratios['course-platform'] ?? Number.NaN,
      h264OverBare: ratios['message-attachment'] ?? Number.NaN,
      av1S: ratios['course-platformS'] ?? Number.NaN,
      h264S: ratios['message-attachmentS'] ?? Number.NaN,
    };
  }),
);

/** The same command without the pictures that are kept for comparing. */
function withoutReference(args: readonly string[], output: string): string[] {
  return args
    .slice(0, args.indexOf(output) + 1)
    .map((arg) =>
      arg.replace(/\[picture\]split=2\[made\]\[before\];\[made\]/, '[picture]').replace(/;\[before\].*$/, ''),
    );
}
