import { randomBytes } from 'node:crypto';
import { cp, mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { isDisposable, TrashEntry } from '@/core/keeping/trash';
import { bytesOf, makeFile, mediaDir, namesIn, sizeOf, trashDir } from '../media/media-folder';

const WHY = 'why.json';

export type TrashItem = TrashEntry & { name: string };

/** Whether recorded media is in a file or a folder. */
async function holdsRecording(path: string): Promise<boolean> {
  const isMedia = (name: string) => name.endsWith('.media') || name === 'recorded.mkv';
  if (isMedia(basename(path))) return ((await sizeOf(path)) ?? 0) > 0;
  for (const name of await namesIn(path))
    if (isMedia(name) && ((await sizeOf(join(path, name))) ?? 0) > 0) return true;
  return false;
}

/**
 * Moves a file or folder of the media folder aside, with the reason and the date. Never removes anything.
 * @returns its name in the trash
 */
export async function moveToTrash(path: string, reason: string): Promise<string> {
  const movedAt = new Date().toISOString();
  const name = `${movedAt.slice(0, 19).replaceAll(':', '-')}.${randomBytes(4).toString('hex')}`;
  const entry: TrashEntry = {
    from: relative(mediaDir(), path),
    reason,
    movedAt,
    bytes: (await bytesOf(path)) ?? 0,
    recording: await holdsRecording(path),
  };
  const folder = join(trashDir(), name);
  await mkdir(folder, { recursive: true });
  // The reason first: nothing is ever in the trash without one.
  await makeFile(join(folder, WHY), (temporary) => writeFile(temporary, JSON.stringify(entry, null, 2)));
  await move(path, join(folder, basename(path)));
  return name;
}

/** Renames, or copies to the other file system before the original is removed. */
async function move(from: string, to: string): Promise<void> {
  try {
    await rename(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
    await cp(from, to, { recursive: true, errorOnExist: true, force: false });
    await rm(from, { recursive: true });
  }
}

/** What is in the trash, the oldest first. A folder whose reason cannot be read is left alone by everything here. */
export async function listTrash(): Promise<TrashItem[]> {
  const items: TrashItem[] = [];
  for (const name of (await namesIn(trashDir())).sort()) {
    const text = await readFile(join(trashDir(), name, WHY), 'utf8').catch(() => '{}');
    const entry = TrashEntry.safeParse(parsed(text));
    if (entry.success) items.push({ name, ...entry.data });
  }
  return items;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

/**
 * Puts something back where it was.
 * @returns its path
 * @throws {Error} when something else is there now
 */
export async function putBack({ name, from }: TrashItem): Promise<string> {
  const to = resolve(mediaDir(), from);
  if (relative(mediaDir(), to).startsWith('..')) throw new Error(`${from} is not in the media folder.`);
  if ((await bytesOf(to)) !== null)
    throw new Error(`${from} exists. Move it away, then restore ${name} again.`);
  await mkdir(dirname(to), { recursive: true });
  await move(join(trashDir(), name, basename(from)), to);
  await rm(join(trashDir(), name), { recursive: true });
  return to;
}

/** Deletes for good. @param names only these; otherwise what is past its days and no recording */
export async function emptyTrash(names?: readonly string[], now = new Date()): Promise<TrashItem[]> {
  const items = await listTrash();
  const gone = items.filter((item) => (names ? names.includes(item.name) : isDisposable(item, now)));
  for (const { name } of gone) await rm(join(trashDir(), name), { recursive: true });
  return gone;
}
