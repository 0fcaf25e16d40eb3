import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { newSegmentId, newTakeId, type SegmentId, type TakeId } from '@/core/base/ids';
import { SegmentHead } from '@/core/recording/take';

/** Files of a journal folder, base64. */
export type JournalFiles = Record<string, string>;

/** What every page of the studio has in its own storage, as `root/take/file`. Any page of the origin will do. */
export const readJournals = (page: Page): Promise<JournalFiles> =>
  page.evaluate(async () => {
    type Folder = AsyncIterable<[string, FileSystemHandle]>;
    const found: Record<string, string> = {};
    /** What is in a file, also of one that is written to at this moment: its snapshot is void then, and taken again. */
    const read = async (handle: FileSystemFileHandle, tries = 20): Promise<Uint8Array> => {
      try {
        return new Uint8Array(await (await handle.getFile()).arrayBuffer());
      } catch (error) {
        if (tries === 0 || (error as DOMException).name !== 'NotReadableError') throw error;
        return read(handle, tries - 1);
      }
    };
    const keep = async (at: string, handle: FileSystemFileHandle): Promise<void> => {
      const bytes = await read(handle);
      let text = '';
      for (let i = 0; i < bytes.length; i += 8192)
        text += String.fromCharCode(...bytes.subarray(i, i + 8192));
      found[at] = btoa(text);
    };
    /** What has arrived at the server leaves the browser, also while it is being read: then it is not here any more. */
    const unlessGone = (error: DOMException) => {
      if (error.name !== 'NotFoundError') throw error;
    };
    const walk = async (folder: FileSystemDirectoryHandle, path: string): Promise<void> => {
      for await (const [name, handle] of folder as unknown as Folder) {
        const at = path ? `${path}/${name}` : name;
        await (handle.kind === 'directory'
          ? walk(handle as FileSystemDirectoryHandle, at)
          : keep(at, handle as FileSystemFileHandle)
        ).catch(unlessGone);
      }
    };
    await walk(await navigator.storage.getDirectory(), '');
    return Object.fromEntries(Object.entries(found).filter(([path]) => path.startsWith('journal')));
  });

/** SHA-256 of a file of a journal in the browser's own storage. @param path `root/take/file` */
export const journalSha256 = (page: Page, path: string): Promise<string> =>
  page.evaluate(async (path) => {
    const names = path.split('/');
    let folder = await navigator.storage.getDirectory();
    for (const name of names.slice(0, -1)) folder = await folder.getDirectoryHandle(name);
    const file = await (await folder.getFileHandle(names.at(-1) ?? '')).getFile();
    const digest = await crypto.subtle.digest('SHA-256', await file.arrayBuffer());
    return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  }, path);

/** Puts files into the browser's own storage, as if a release of the studio had recorded them. @param folder `root/take` */
export const plantJournal = (page: Page, folder: string, files: JournalFiles): Promise<void> =>
  page.evaluate(
    async ([path, all]) => {
      let at = await navigator.storage.getDirectory();
      for (const name of path.split('/')) at = await at.getDirectoryHandle(name, { create: true });
      for (const [name, base64] of Object.entries(all)) {
        const bytes = Uint8Array.from(atob(base64), (each) => each.charCodeAt(0));
        const writable = await (await at.getFileHandle(name, { create: true })).createWritable();
        await writable.write(bytes);
        await writable.close();
      }
    },
    [folder, files] as const,
  );

const PREVIOUS = join(import.meta.dirname, '..', 'previous-release');

const bytesOf = (path: string) => readFileSync(path).toString('base64');

/** A take that the previous release left in a browser: its id, and the files of its journal (version 1). */
export function previousJournal(): { take: string; files: JournalFiles } {
  const [take = ''] = readdirSync(join(PREVIOUS, 'journal'));
  const folder = join(PREVIOUS, 'journal', take);
  const files = readdirSync(folder).map((name) => [name, bytesOf(join(folder, name))] as const);
  return { take, files: Object.fromEntries(files) };
}

export const textOf = (base64 = ''): string => Buffer.from(base64, 'base64').toString('utf8');
export const fileOf = (text: string): string => Buffer.from(text).toString('base64');

export type PlantedTake = { take: TakeId; segments: SegmentHead[]; files: JournalFiles };

/**
 * The same recording under ids of its own, so that one database takes it in again and again.
 * @param version of the journal
 */
export function freshJournal(lesson: string, version: 1 | 2 | 3 = 2, startedAt = new Date()): PlantedTake {
  const { files } = previousJournal();
  const take = newTakeId();
  const ids = new Map<string, SegmentId>();
  const opened = textOf(files['segments.jsonl'])
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line));
  for (const line of opened) if (line.open) ids.set(line.open.id, newSegmentId());
  const renamed = (text: string) =>
    [...ids].reduce((all, [before, after]) => all.replaceAll(before, after), text);
  const head = { ...JSON.parse(textOf(files['take.json'])), id: take, lessonId: lesson };
  const fresh: JournalFiles = {};
  for (const [name, base64] of Object.entries(files))
    fresh[renamed(name)] = name.includes('.json') ? fileOf(renamed(textOf(base64))) : base64;
  fresh['take.json'] = fileOf(
    JSON.stringify({ ...(version > 1 && { v: version }), ...head, startedAt: startedAt.toISOString() }),
  );
  const segments = opened.flatMap((line) =>
    line.open ? [SegmentHead.parse({ ...line.open, id: ids.get(line.open.id) })] : [],
  );
  return { take, segments, files: fresh };
}

export const rootOf = (version: 1 | 2 | 3): string => (version === 1 ? 'journal' : `journal-${version}`);
