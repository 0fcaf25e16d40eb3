/** The browser's own storage in memory, as far as a journal needs it: for tests of what reads and sends journals. */
export type MemoryFile = { bytes: Uint8Array<ArrayBuffer>; readBytes: number };

const notFound = () => new DOMException('There is no such file.', 'NotFoundError');

/** A folder with files; `removed` lists what was removed from it, in order. */
export function memoryFolder(initial: Record<string, Uint8Array<ArrayBuffer> | string>) {
  const files = new Map<string, MemoryFile>();
  const removed: string[] = [];
  const encoder = new TextEncoder();
  const put = (name: string, content: Uint8Array<ArrayBuffer> | string) =>
    files.set(name, {
      bytes: typeof content === 'string' ? new Uint8Array(encoder.encode(content)) : content,
      readBytes: 0,
    });
  for (const [name, content] of Object.entries(initial)) put(name, content);

  const handleOf = (name: string) => ({
    kind: 'file' as const,
    name,
    getFile: async () => {
      const file = files.get(name);
      if (!file) throw notFound();
      return new File([file.bytes], name, { lastModified: 1_900_000_000_000 });
    },
    createWritable: async () => {
      let text = '';
      return {
        write: async (more: string) => {
          text += more;
        },
        close: async () => put(name, text),
      };
    },
    createSyncAccessHandle: async () => {
      const file = files.get(name);
      if (!file) throw notFound();
      return {
        getSize: () => file.bytes.length,
        read: (into: Uint8Array, { at }: { at: number }) => {
          const part = file.bytes.subarray(at, at + into.length);
          into.set(part);
          file.readBytes += part.length;
          return part.length;
        },
        close: () => undefined,
      };
    },
  });
  const folder = {
    kind: 'directory' as const,
    getFileHandle: async (name: string, { create = false } = {}) => {
      if (!files.has(name) && !create) throw notFound();
      if (!files.has(name)) put(name, '');
      return handleOf(name);
    },
    removeEntry: async (name: string) => {
      if (!files.delete(name)) throw notFound();
      removed.push(name);
    },
    async *[Symbol.asyncIterator]() {
      for (const name of [...files.keys()]) yield [name, handleOf(name)] as const;
    },
  };
  return { folder: folder as unknown as FileSystemDirectoryHandle, files, removed };
}
