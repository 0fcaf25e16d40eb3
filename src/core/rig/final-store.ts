import { z } from 'zod';
import { bytesText } from '../base/figures';
import type { StoreId } from '../base/ids';

export const StoreInput = z.object({
  name: z.string().trim().min(1, 'a store needs a name').max(60),
  /** On the studio's machine. */
  folder: z
    .string()
    .trim()
    .min(1, 'a store needs a folder')
    .max(1000)
    .refine((folder) => folder.startsWith('/'), 'must be a whole path, beginning with /'),
});
export type StoreInput = z.infer<typeof StoreInput>;

/** A folder that gets copies of what is finished, and how it was found when it was last looked at. */
export type StoreView = StoreInput & {
  id: StoreId;
  /** Why nothing can be put there; null when something can. */
  problem: string | null;
  freeBytes: number | null;
  /** How fast it took a file, bytes a second; measured once. */
  bytesPerSecond: number | null;
};

/** "writable, 120 GB free, 90 MB a second". */
export const storeText = ({ problem, freeBytes, bytesPerSecond }: StoreView): string =>
  problem ??
  [
    'writable',
    freeBytes !== null && `${bytesText(freeBytes)} free`,
    bytesPerSecond !== null && `${bytesText(bytesPerSecond)}/s`,
  ]
    .filter(Boolean)
    .join(', ');
