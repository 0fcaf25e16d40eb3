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
  /** Titles of the other lessons that show it, or a take of it: it is kept for as long as they do. */
  usedIn: string[];
  /** Of its files. */
  bytes: number;
  /** ISO 8601 */
  deletedAt: string;
  keptUntil: string;
};
