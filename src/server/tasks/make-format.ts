import { CONTAINERS, Format } from '@/core/codec/formats';
import { formatArgs } from '@/core/commands/make-format';
import { Take, type TakeFileSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { runJob } from '../jobs/run-job';
import { ffmpeg } from '../media/ffmpeg';
import { formatPath, madePath, makeFile } from '../media/media-folder';
import { readInputs } from '../takes/segment-parts';
import { orderCopies, partsOfSubject } from '../takes/take-files';

/** Makes one format of a finished take. */
export const makeFormat = (subject: TakeFileSubject): Promise<void> => {
  const { take: id, what } = partsOfSubject(subject);
  const format = Format.parse(what);
  const isCopied = async () => {
    const take = await (await unitOfWork()).findOneOrFail(Take, { id });
    return take.rig.stores.final !== 'studio';
  };
  return runJob(
    'make-format',
    subject,
    async (report, signal) => {
      const em = await unitOfWork();
      const take = await em.findOneOrFail(Take, { id }, { populate: ['tracks.segments'] });
      const durationUs = take.durationUs ?? 0;
      const { rig } = take;
      const step = `Making ${CONTAINERS[format].name}`;
      report(step, 0.05);
      const args = formatArgs(format, await readInputs(take), rig, durationUs, madePath(id, 'plain.mp4'));
      await makeFile(formatPath(id, format), (temporary) =>
        ffmpeg([...args, temporary], {
          durationUs,
          signal,
          onProgress: (share) => report(step, 0.05 + 0.9 * share),
        }),
      );
    },
    async (outcome) => {
      if (outcome === 'done' && (await isCopied())) await orderCopies(id);
    },
  );
};
