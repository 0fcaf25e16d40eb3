import { randomBytes } from 'node:crypto';
import { constants } from 'node:fs';
import { access, open, rm, stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { newStoreId, type StoreId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { StoreInput, StoreView } from '@/core/rig/final-store';
import { Store } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';

/** Enough to be more than what a disk's own memory takes at once. */
const PROBE_BYTES = 32_000_000;

const WHY: Record<string, string> = {
  ENOENT: 'there is no such folder',
  ENOTDIR: 'it is no folder',
  EACCES: 'the studio may not write there',
  EROFS: 'it cannot be written to',
  EPERM: 'the studio may not write there',
  ENOSPC: 'it is full',
};
const why = (error: unknown): string => {
  const { code, message } = error as NodeJS.ErrnoException;
  return WHY[code ?? ''] ?? message;
};

/** How a folder is found now. */
export async function lookAt(folder: string): Promise<Pick<StoreView, 'problem' | 'freeBytes'>> {
  try {
    if (!(await stat(folder)).isDirectory()) return { problem: 'it is no folder', freeBytes: null };
    await access(folder, constants.W_OK);
    const { bavail, bsize } = await statfs(folder);
    return { problem: null, freeBytes: bavail * bsize };
  } catch (error) {
    return { problem: why(error), freeBytes: null };
  }
}

/** Writes a file, and takes it away again. @returns bytes a second @throws what the system says of the folder */
async function measureSpeed(folder: string): Promise<number> {
  const path = join(folder, `.${randomBytes(8).toString('hex')}.probe`);
  try {
    const data = randomBytes(PROBE_BYTES);
    const began = performance.now();
    const file = await open(path, 'wx');
    try {
      await file.writeFile(data);
      await file.sync();
    } finally {
      await file.close();
    }
    return PROBE_BYTES / ((performance.now() - began) / 1000);
  } finally {
    await rm(path, { force: true });
  }
}

const view = async ({ id, name, folder, bytesPerSecond }: Store): Promise<StoreView> => ({
  id,
  name,
  folder,
  bytesPerSecond: bytesPerSecond ?? null,
  ...(await lookAt(folder)),
});

/** Every store, as it is found now. */
export async function listStores(): Promise<StoreView[]> {
  const em = await unitOfWork();
  return Promise.all((await em.find(Store, { deletedAt: null }, { orderBy: { name: 'asc' } })).map(view));
}

/**
 * Adds a folder of this machine, after a test file was written there and removed.
 * @throws {ProblemError} `bad-input` when nothing can be put there, with the reason
 */
export async function addStore({ name, folder }: StoreInput): Promise<StoreView> {
  const em = await unitOfWork();
  let bytesPerSecond: number;
  try {
    if (!(await stat(folder)).isDirectory()) throw Object.assign(new Error(), { code: 'ENOTDIR' });
    bytesPerSecond = await measureSpeed(folder);
  } catch (error) {
    throw new ProblemError({
      code: 'bad-input',
      message: `Nothing can be put into ${folder}: ${why(error)}.`,
      hint: 'Make the folder, let the studio write there, or choose another one.',
      field: 'folder',
    });
  }
  const before = await em.findOne(Store, { folder });
  const row = before ?? em.create(Store, { id: newStoreId(), name, folder, bytesPerSecond });
  Object.assign(row, { name, bytesPerSecond, deletedAt: null });
  await em.flush();
  return view(row);
}

/** Forgets a store. What was copied there stays there. */
export async function removeStore(id: StoreId): Promise<void> {
  const em = await unitOfWork();
  found(await em.findOne(Store, { id }), 'store').deletedAt = new Date();
  await em.flush();
}
