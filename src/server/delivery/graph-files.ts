import { rm, writeFile } from 'node:fs/promises';
import type { GraphFile } from '@/core/commands/growing';

/** Writes the small files that a graph reads, and takes them away when the work is done or has failed. */
export async function withGraphFiles<T>(files: readonly GraphFile[], work: () => Promise<T>): Promise<T> {
  try {
    for (const { path, content } of files) await writeFile(path, content);
    return await work();
  } finally {
    for (const { path } of files) await rm(path, { force: true });
  }
}
