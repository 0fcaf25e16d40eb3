import { z } from 'zod';

export const BinKind = z.enum(['lesson', 'take', 'parcel']);
export type BinKind = z.infer<typeof BinKind>;

/** Something that was deleted and can be put back. */
export type BinEntry = {
  kind: BinKind;
  id: string;
  title: string;
  /** The lesson that it belongs to; null for a lesson. */
  lesson: string | null;
  /** Of its files. */
  bytes: number;
  /** ISO 8601 */
  deletedAt: string;
  keptUntil: string;
};
