import { rm } from 'node:fs/promises';
import { LessonId, ParcelId, TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { BinEntry } from '@/core/keeping/bin';
import { isPastKeeping, keptUntil } from '@/core/keeping/trash';
import { takeTitle } from '@/core/views/lesson';
import { lessonsUsing, type UsingLesson } from '../cuts/used-takes';
import { CopyRow, CutRow, Job, Lesson, Parcel, Scheduled, Share, Take, TakeEventRow } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { found } from '../http/route';
import { bytesOf, parcelDir, takeDir } from '../media/media-folder';

const bytesOfTakes = async (takes: readonly Take[]): Promise<number> =>
  (await Promise.all(takes.map(({ id }) => bytesOf(takeDir(id))))).reduce<number>(
    (sum, n) => sum + (n ?? 0),
    0,
  );
const bytesOfParcels = async (parcels: readonly Parcel[]): Promise<number> =>
  (await Promise.all(parcels.map(({ id }) => bytesOf(parcelDir(id))))).reduce<number>(
    (sum, n) => sum + (n ?? 0),
    0,
  );

/** What was deleted and can be put back, the latest first. */
export async function listBin(): Promise<BinEntry[]> {
  const em = await unitOfWork();
  const deleted = { deletedAt: { $ne: null } };
  const [lessons, takes, parcels] = await Promise.all([
    em.find(Lesson, deleted, { populate: ['takes'] }),
    em.find(Take, deleted, { populate: ['lesson'] }),
    em.find(Parcel, deleted, { populate: ['lesson'] }),
  ]);
  const using = await lessonsUsing(em, [
    ...takes.map(({ id }) => id),
    ...lessons.flatMap((lesson) => lesson.takes.getItems().map(({ id }) => id)),
  ]);
  const entry = (deletedAt: Date | null | undefined, rest: Omit<BinEntry, 'deletedAt' | 'keptUntil'>) => ({
    ...rest,
    deletedAt: (deletedAt ?? new Date()).toISOString(),
    keptUntil: keptUntil(deletedAt ?? new Date()).toISOString(),
  });
  const entries = await Promise.all([
    ...lessons.map(async (lesson) =>
      entry(lesson.deletedAt, {
        kind: 'lesson',
        id: lesson.id,
        title: lesson.title,
        lesson: null,
        usedIn: titlesBut(
          lesson.id,
          lesson.takes.getItems().flatMap(({ id }) => using.get(id) ?? []),
        ),
        bytes:
          (await bytesOfTakes(lesson.takes.getItems())) +
          (await bytesOfParcels(await em.find(Parcel, { lesson }))),
      }),
    ),
    ...takes.map(async (take) =>
      entry(take.deletedAt, {
        kind: 'take',
        id: take.id,
        title: takeTitle(take),
        lesson: take.lesson.title,
        usedIn: titlesBut(null, using.get(take.id) ?? []),
        bytes: await bytesOfTakes([take]),
      }),
    ),
    ...parcels.map(async (parcel) =>
      entry(parcel.deletedAt, {
        kind: 'parcel',
        id: parcel.id,
        title: parcel.destination.name,
        lesson: parcel.lesson.title,
        usedIn: [],
        bytes: await bytesOfParcels([parcel]),
      }),
    ),
  ]);
  return entries.sort((a, b) => b.deletedAt.localeCompare(a.deletedAt));
}

/** Titles of lessons, each once. @param lesson one that does not count: its cut goes with it */
const titlesBut = (lesson: LessonId | null, using: readonly UsingLesson[]): string[] => [
  ...new Map(using.filter(({ id }) => id !== lesson).map(({ id, title }) => [id, title])).values(),
];

/** @throws {ProblemError} `conflict` when a cut shows one of them that does not go with them */
async function checkUnused(em: UnitOfWork, takes: readonly Take[], lesson: LessonId | null): Promise<void> {
  const using = await lessonsUsing(
    em,
    takes.map(({ id }) => id),
  );
  const [title] = titlesBut(lesson, [...using.values()].flat());
  if (title === undefined) return;
  throw new ProblemError({
    code: 'conflict',
    message: `“${title}” uses ${lesson ? 'a take of this lesson' : 'this take'}.`,
    hint: 'Delete its steps there, or delete that lesson for good first.',
  });
}

/** Puts a lesson, a take or a parcel back where it was. A take or a parcel of a deleted lesson comes back with its lesson. */
export async function restoreFromBin(kind: BinEntry['kind'], id: string): Promise<void> {
  const em = await unitOfWork();
  if (kind === 'lesson')
    found(await em.findOne(Lesson, { id: LessonId.parse(id) }), 'lesson').deletedAt = null;
  else {
    const row =
      kind === 'take'
        ? found(await em.findOne(Take, { id: TakeId.parse(id) }, { populate: ['lesson'] }), 'take')
        : found(await em.findOne(Parcel, { id: ParcelId.parse(id) }, { populate: ['lesson'] }), 'parcel');
    row.deletedAt = null;
    row.lesson.deletedAt = null;
  }
  await em.flush();
}

/** Deletes something in the bin for good, with its files. @throws {ProblemError} `conflict` when it is not in the bin, or a lesson uses it */
export async function deleteFromBin(kind: BinEntry['kind'], id: string): Promise<void> {
  const em = await unitOfWork();
  const notThere = new ProblemError({
    code: 'conflict',
    message: 'This is not in the bin.',
    hint: 'Delete it first, then empty the bin.',
  });
  if (kind === 'parcel') {
    const parcel = found(await em.findOne(Parcel, { id: ParcelId.parse(id) }), 'parcel');
    if (!parcel.deletedAt) throw notThere;
    return removeParcels(em, [parcel]);
  }
  if (kind === 'take') {
    const take = found(await em.findOne(Take, { id: TakeId.parse(id) }), 'take');
    if (!take.deletedAt) throw notThere;
    await checkUnused(em, [take], null);
    return removeTakes(em, [take]);
  }
  const lesson = found(
    await em.findOne(Lesson, { id: LessonId.parse(id) }, { populate: ['takes'] }),
    'lesson',
  );
  if (!lesson.deletedAt) throw notThere;
  await checkUnused(em, lesson.takes.getItems(), lesson.id);
  await removeParcels(em, await em.find(Parcel, { lesson }));
  await removeTakes(em, lesson.takes.getItems());
  await em.nativeDelete(Scheduled, { lesson: lesson.id });
  await em.nativeDelete(CutRow, { lesson: lesson.id });
  await em.nativeDelete(Lesson, { id: lesson.id });
}

/** Rows first: files without a row are moved aside by the next sweep, a row without its files would be a lie. */
async function removeTakes(em: UnitOfWork, takes: readonly Take[]): Promise<void> {
  for (const { id } of takes) {
    await em.nativeDelete(Share, { take: id });
    await em.nativeDelete(CopyRow, { take: id });
    await em.nativeDelete(TakeEventRow, { take: id });
    await em.nativeDelete(Job, { subject: { $like: `${id}%` } });
    const connection = em.getConnection();
    await connection.execute(
      'delete from segment where track_id in (select id from track where take_id = ?)',
      [id],
    );
    await connection.execute('delete from track where take_id = ?', [id]);
    await em.nativeDelete(Take, { id });
    await rm(takeDir(id), { recursive: true, force: true });
  }
}

async function removeParcels(em: UnitOfWork, parcels: readonly Parcel[]): Promise<void> {
  for (const { id } of parcels) {
    await em.nativeDelete(Share, { parcel: id });
    await em.nativeDelete(Job, { subject: id });
    await em.nativeDelete(Parcel, { id });
    await rm(parcelDir(id), { recursive: true, force: true });
  }
}

/** Deletes what has been in the bin for longer than it is kept, and that no lesson uses. @returns what was deleted */
export async function emptyOldBin(now = new Date()): Promise<BinEntry[]> {
  const old = (await listBin()).filter(
    ({ deletedAt, usedIn }) => usedIn.length === 0 && isPastKeeping(new Date(deletedAt), now),
  );
  // A lesson takes its takes and parcels with it: what is in it and in the bin as well is gone by then.
  const order = { parcel: 0, take: 1, lesson: 2 };
  old.sort((a, b) => order[a.kind] - order[b.kind]);
  for (const { kind, id } of old) await deleteFromBin(kind, id);
  return old;
}
