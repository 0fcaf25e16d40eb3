import { rm } from 'node:fs/promises';
import { TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { Format, type FormatSource, formatRefusal } from '@/core/codec/formats';
import { codecOfString } from '@/core/codec/fourcc';
import type { TakeFile } from '@/core/views/take-page';
import { CopyRow, Job, type JobKind, Take, type TakeFileSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { segmentsOf } from '../db/take-segments';
import { found } from '../http/route';
import { order } from '../jobs/queue';
import { formatPath, sizeOf } from '../media/media-folder';
import { jobView } from './progress';

const subjectOf = (take: TakeId, what: Format | 'copies'): TakeFileSubject => `${take}.${what}`;

/** The take and what of it, of a job's subject. */
export function partsOfSubject(subject: TakeFileSubject): { take: TakeId; what: string } {
  const [take = '', what = ''] = subject.split('.');
  return { take: TakeId.parse(take), what };
}

/** What a take gives to make a format of. @param take with its tracks and segments */
export function takeSource(take: Take): FormatSource {
  const tracks = take.tracks.getItems();
  const screens = segmentsOf(take, 'screen');
  const configuration = screens[0]?.configuration;
  const codec = configuration?.type === 'video' ? codecOfString(configuration.codec) : null;
  return {
    picture: codec
      ? {
          codec,
          segments: screens.filter(({ continues }) => !continues).length,
          withCamera: tracks.some(({ kind }) => kind === 'camera'),
        }
      : null,
    hasSound: tracks.some(({ kind }) => kind === 'voice' || kind === 'app-sound'),
  };
}

/** Every format with what is known of it for a take. @param take with its tracks and segments */
export async function takeFiles(take: Take): Promise<TakeFile[]> {
  const em = await unitOfWork();
  const jobs = await em.find(Job, {
    kind: 'make-format',
    subject: Format.options.map((format) => subjectOf(take.id, format)),
  });
  return Promise.all(
    Format.options.map(async (format) => {
      const job = jobs.find(({ subject }) => subject === subjectOf(take.id, format));
      return {
        format,
        refusal: formatRefusal(format, takeSource(take)),
        bytes: await sizeOf(formatPath(take.id, format)),
        job: job ? jobView(job) : null,
      };
    }),
  );
}

/** What was copied of a take, and the job that copies. */
export async function takeCopies(take: TakeId) {
  const em = await unitOfWork();
  const rows = await em.find(CopyRow, { take }, { populate: ['store'], orderBy: { id: 'asc' } });
  const job = await em.findOne(Job, { kind: 'copy-files', subject: subjectOf(take, 'copies') });
  return {
    copies: rows.map(({ name, store, bytes }) => ({ name, store: store.name, bytes })),
    job: job ? jobView(job) : null,
  };
}

/** Begins a job, or begins it again. */
async function begin(kind: JobKind, subject: TakeFileSubject): Promise<void> {
  const em = await unitOfWork();
  const waiting = { state: 'waiting', progress: 0, step: 'Waiting for a worker', problem: null } as const;
  const job = await em.findOne(Job, { kind, subject });
  if (job) Object.assign(job, waiting);
  else em.create(Job, { kind, subject, ...waiting });
  await em.flush();
  await order(kind, subject);
}

/** Makes a format of a finished take. @throws {ProblemError} `conflict` when it is not finished, or cannot be made: with the reason */
export async function orderFormat(id: TakeId, format: Format): Promise<void> {
  const em = await unitOfWork();
  const take = found(await em.findOne(Take, { id }, { populate: ['tracks.segments'] }), 'take');
  const refusal = formatRefusal(format, takeSource(take));
  if (refusal) throw new ProblemError({ code: 'conflict', message: refusal, field: 'format' });
  if (take.state !== 'ready')
    throw new ProblemError({
      code: 'conflict',
      message: 'The take is not finished yet.',
      hint: 'Ask again when its plain video is there.',
    });
  await begin('make-format', subjectOf(id, format));
}

/**
 * What follows when a take was finished: files of before are stale, those that its rig asks for are made, and copies after all of them.
 */
export async function orderFollowing(id: TakeId): Promise<void> {
  const em = await unitOfWork();
  const take = await em.findOneOrFail(Take, { id }, { populate: ['tracks.segments'] });
  const { formats, stores } = take.rig;
  for (const format of Format.options) {
    await rm(formatPath(id, format), { force: true });
    await em.nativeDelete(Job, { kind: 'make-format', subject: subjectOf(id, format) });
  }
  for (const format of formats)
    if (!formatRefusal(format, takeSource(take))) await begin('make-format', subjectOf(id, format));
  if (stores.final !== 'studio') await orderCopies(id);
}

/** Copies what is finished of a take to the store that its rig names, if it names one. */
export const orderCopies = (id: TakeId): Promise<void> => begin('copy-files', subjectOf(id, 'copies'));
