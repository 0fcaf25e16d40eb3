import { slowDown } from './ordered-faults';

/** A file of the journal that only grows. Writes are gathered: one system call each 200 ms, whatever arrives. */
export type JournalFile = {
  /** Bytes given to it so far. */
  readonly length: () => number;
  readonly unwritten: () => number;
  readonly append: (bytes: Uint8Array) => void;
  readonly flush: () => void;
  /** Writes what is left, as far as the storage takes it, and lets go of the file. `length` is then what is in it. */
  readonly close: () => void;
  /** The same, but ends the file after so many bytes. */
  readonly closeAt: (length: number) => void;
};

const GATHER_MS = 200;
const encoder = new TextEncoder();
export const line = (text: string): Uint8Array => encoder.encode(`${text}\n`);

/** Told how long a write to the disk took. @param beganMs of this worker's clock */
export type OnWrite = (write: { beganMs: number; ms: number; bytes: number }) => void;

/**
 * @param onError told once, when the storage refuses a write (full disk, full quota); what was written before stays
 * @param watch whether the next write is ordered to fail, and who is told of writes
 */
export async function openJournalFile(
  folder: FileSystemDirectoryHandle,
  name: string,
  onError: (error: unknown) => void,
  { mustFail = () => false, onWrite }: { mustFail?: () => boolean; onWrite?: OnWrite | undefined } = {},
): Promise<JournalFile> {
  const handle = await openSyncFile(await folder.getFileHandle(name, { create: true }));
  let written = handle.getSize();
  let waiting: Uint8Array[] = [];
  let waitingBytes = 0;
  let failed = false;
  let told = false;
  const fail = (error: unknown) => {
    failed = true;
    if (!told) onError(error);
    told = true;
  };
  const flush = () => {
    if (waitingBytes === 0 || failed) return;
    const whole = new Uint8Array(waitingBytes);
    let at = 0;
    for (const part of waiting) {
      whole.set(part, at);
      at += part.length;
    }
    const beganMs = performance.now();
    try {
      slowDown('screen', 'file');
      if (mustFail()) throw new DOMException('The file could not be written.', 'InvalidStateError');
      let done = 0;
      while (done < whole.length) done += handle.write(whole.subarray(done), { at: written + done });
      written += whole.length;
      waiting = [];
      waitingBytes = 0;
      onWrite?.({ beganMs, ms: performance.now() - beganMs, bytes: whole.length });
    } catch (error) {
      // Half a block is worth less than none: readers stop at it.
      handle.truncate(written);
      fail(error);
    }
  };
  const timer = setInterval(flush, GATHER_MS);
  const closeAt = (length: number) => {
    clearInterval(timer);
    // After a refusal room may have been made: the last fifth of a second is worth another try.
    failed = false;
    flush();
    waiting = [];
    waitingBytes = 0;
    try {
      if (length < written) {
        handle.truncate(length);
        written = length;
      }
      handle.flush();
    } catch (error) {
      fail(error);
    }
    handle.close();
  };
  return {
    length: () => written + waitingBytes,
    unwritten: () => waitingBytes,
    append: (bytes) => {
      waiting.push(bytes);
      waitingBytes += bytes.length;
    },
    flush,
    close: () => closeAt(Number.POSITIVE_INFINITY),
    closeAt,
  };
}

/** The worker-only half of OPFS, which the page's type library leaves out. */
export type SyncFile = {
  read: (into: Uint8Array, options: { at: number }) => number;
  write: (from: Uint8Array, options: { at: number }) => number;
  truncate: (size: number) => void;
  getSize: () => number;
  flush: () => void;
  close: () => void;
};

/** Opens a file beside other handles of it: the uploader reads while the recorder appends. */
export function openSyncFile(file: FileSystemFileHandle): Promise<SyncFile> {
  type Opener = { createSyncAccessHandle: (options: { mode: 'readwrite-unsafe' }) => Promise<SyncFile> };
  return (file as unknown as Opener).createSyncAccessHandle({ mode: 'readwrite-unsafe' });
}
