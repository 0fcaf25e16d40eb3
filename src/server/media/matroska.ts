import { open } from 'node:fs/promises';

/** "The EBML Header Element ID: 0x1A45DFA3" (RFC 8794 section 11.2.1): the first bytes of every Matroska file. */
const EBML = Buffer.from([0x1a, 0x45, 0xdf, 0xa3]);
/** The DocType of a Matroska file, which the EBML header names (RFC 9559 section 4). */
const DOC_TYPES = ['matroska', 'webm'].map((name) => Buffer.from(name));
/** An EBML header is shorter than this. */
const HEADER_BYTES = 64;

/** Whether a file begins as a Matroska file must. */
export async function isMatroska(path: string): Promise<boolean> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEADER_BYTES), 0, HEADER_BYTES, 0);
    const head = buffer.subarray(0, bytesRead);
    return head.subarray(0, 4).equals(EBML) && DOC_TYPES.some((name) => head.includes(name));
  } finally {
    await file.close();
  }
}
