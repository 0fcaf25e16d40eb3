import { readFile, writeFile } from 'node:fs/promises';
import { newInstanceId, TakeId } from '@/core/base/ids';
import { Pairing, type PairingState, pairingState } from '@/core/keeping/pairing';
import { InstanceRow, Take } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { makeFile, namesIn, pairingPath, takesDir } from '../media/media-folder';

async function mediaMark(): Promise<Pairing | null> {
  const text = await readFile(pairingPath(), 'utf8').catch((error) => {
    if (error.code === 'ENOENT') return null;
    throw error;
  });
  return text === null ? null : Pairing.parse(JSON.parse(text));
}

async function databaseMark(em: UnitOfWork): Promise<Pairing | null> {
  const [row] = await em.find(InstanceRow, {});
  return row ? { id: row.id, sweeps: row.sweeps } : null;
}

/** Ids of the takes that have a folder here. */
export const takeFolders = async (): Promise<TakeId[]> =>
  (await namesIn(takesDir())).flatMap((name) => {
    const id = TakeId.safeParse(name);
    return id.success ? [id.data] : [];
  });

/** Whether this database and this media folder belong together, as they are now. */
export async function readPairing(): Promise<PairingState> {
  const em = await unitOfWork();
  const folders = await takeFolders();
  const [database, media, listedTakes, sharedTakes] = await Promise.all([
    databaseMark(em),
    mediaMark(),
    em.count(Take),
    folders.length > 0 ? em.count(Take, { id: folders }) : 0,
  ]);
  return pairingState({ database, media, listedTakes, takeFolders: folders.length, sharedTakes });
}

/** Gives both the same mark, with a count above both. */
export async function pair(): Promise<void> {
  const em = await unitOfWork();
  const [database, media] = await Promise.all([databaseMark(em), mediaMark()]);
  const id = media?.id ?? database?.id ?? newInstanceId();
  const sweeps = Math.max(database?.sweeps ?? 0, media?.sweeps ?? 0) + 1;
  // The database first: a process that ends in between leaves it one ahead, which is no difference.
  await em.nativeDelete(InstanceRow, { id: { $ne: id } });
  await em.upsert(InstanceRow, { id, sweeps });
  await makeFile(pairingPath(), (temporary) => writeFile(temporary, JSON.stringify({ id, sweeps })));
}

/**
 * Counts a start or a sweep in both, or pairs them where nothing speaks against it.
 * @returns how they stand to each other; nothing was written where they do not belong together
 */
export async function countPairing(): Promise<PairingState> {
  const state = await readPairing();
  if (state === 'same' || state === 'unpaired') await pair();
  return state;
}
