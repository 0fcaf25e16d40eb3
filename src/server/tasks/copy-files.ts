import { randomBytes } from 'node:crypto';
import { constants, copyFile, link, open, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { fileName, numberedName } from '@/core/base/names';
import { CONTAINERS, Format } from '@/core/codec/formats';
import { takeFileName } from '@/core/rig/take-names';
import { takeTitle } from '@/core/views/lesson';
import { CopyRow, Store, Take, type TakeFileSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { lookAt } from '../delivery/stores';
import { runJob } from '../jobs/run-job';
import { formatPath, madePath, sha256Of, sizeOf } from '../media/media-folder';
import { partsOfSubject } from '../takes/take-files';

type Copied = { file: string; path: string; name: string };

/**
 * Copies what is finished of a take to the store that its rig names: each file is read again there and compared by hash before it gets
 * its name, and a name that is taken is never written over. What was copied already is not copied again.
 */
export const copyFiles = (subject: TakeFileSubject): Promise<void> => {
  const { take: id } = partsOfSubject(subject);
  return runJob(
    'copy-files',
    subject,
    async (report, signal) => {
      const em = await unitOfWork();
      const take = await em.findOneOrFail(Take, { id }, { populate: ['lesson'] });
      const { final } = take.rig.stores;
      if (final === 'studio') return;
      const store = await em.findOne(Store, { id: final, deletedAt: null });
      if (!store) throw new Error('The store is not known any more. Choose one under File in Set up.');
      const { problem } = await lookAt(store.folder);
      if (problem) throw new Error(`Nothing can be put into the store “${store.name}”: ${problem}.`);
      const known = await em.find(CopyRow, { take, store });
      const files = await filesOf(take);
      for (const [i, { file, path, name }] of files.entries()) {
        signal.throwIfAborted();
        report(`Copying ${name}`, i / files.length);
        const sha256 = await sha256Of(path);
        if (known.some((copy) => copy.file === file && copy.sha256 === sha256)) continue;
        const settled = await copyTo(store.folder, path, name, sha256);
        em.create(CopyRow, { take, store, file, name: settled, bytes: (await stat(path)).size, sha256 });
        await em.flush();
      }
    },
    async () => undefined,
  );
};

/** The finished files of a take that are there, and what they are called outside. */
async function filesOf(take: Take): Promise<Copied[]> {
  const named = (extension: string, suffix = '') =>
    fileName(
      `${takeFileName({
        rig: take.rig,
        lesson: take.lesson.title,
        take: takeTitle(take),
        startedAt: take.startedAt,
        picture: take.facts?.picture ?? null,
      })}${suffix}`,
      extension,
    );
  const all: Copied[] = [
    { file: 'plain', path: madePath(take.id, 'plain.mp4'), name: named('mp4') },
    { file: 'recorded', path: madePath(take.id, 'recorded.mkv'), name: named('mkv', ', as recorded') },
    ...Format.options.map((format) => ({
      file: format,
      path: formatPath(take.id, format),
      name: named(CONTAINERS[format].extension),
    })),
  ];
  const sizes = await Promise.all(all.map(({ path }) => sizeOf(path)));
  return all.filter((_, i) => sizes[i] !== null);
}

/** @returns the name that was free */
async function copyTo(folder: string, from: string, name: string, sha256: string): Promise<string> {
  const temporary = join(folder, `.${randomBytes(8).toString('hex')}.part`);
  try {
    await copyFile(from, temporary);
    const file = await open(temporary, 'r+');
    await file.sync();
    await file.close();
    if ((await sha256Of(temporary)) !== sha256)
      throw new Error(`What came to lie in ${folder} is not what was copied: its hash is another one.`);
    for (let n = 1; ; n++) {
      const free = numberedName(name, n);
      try {
        await nameIt(temporary, join(folder, free));
        return free;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
        // A worker that was killed after it had given the name: the file is there, and need not be there twice.
        if ((await sha256Of(join(folder, free))) === sha256) return free;
      }
    }
  } finally {
    await rm(temporary, { force: true });
  }
}

/** File systems that know no second name for a file. */
const NO_LINKS = ['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS'];

/** Gives a file its name. Fails where the name is taken, in one step: nothing is ever written over. */
async function nameIt(temporary: string, path: string): Promise<void> {
  try {
    await link(temporary, path);
  } catch (error) {
    if (!NO_LINKS.includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
    await copyFile(temporary, path, constants.COPYFILE_EXCL);
  }
}
