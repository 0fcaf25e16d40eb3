import { entriesOf, journalEntries } from './journal';

/**
 * The files of a recording that is in this browser, under names that other programs open.
 * @throws {Error} when it is not here any more
 */
export async function recordingFiles(key: string): Promise<{ name: string; file: File }[]> {
  const entry = (await journalEntries()).find((each) => each.key === key);
  if (!entry) throw new Error('This recording is not in the browser any more.');
  const files: { name: string; file: File }[] = [];
  for await (const [name, handle] of entriesOf(entry.folder)) {
    if (handle.kind !== 'file') continue;
    const file = await (handle as FileSystemFileHandle).getFile();
    if (file.size > 0) files.push({ name: name.replace(/\.media$/, '.mkv'), file });
  }
  return files;
}
