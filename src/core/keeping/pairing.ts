import { z } from 'zod';

/**
 * The mark that database and media folder share. `sweeps` grows in both with every start and every sweep, so that a restored copy of
 * either one is recognized as older than the other.
 */
export const Pairing = z.object({ id: z.string().min(1).max(60), sweeps: z.int().min(0) });
export type Pairing = z.infer<typeof Pairing>;

export type PairingFacts = {
  database: Pairing | null;
  media: Pairing | null;
  /** Takes that the database lists. */
  listedTakes: number;
  /** Take folders in the media folder. */
  takeFolders: number;
  /** Take folders that the database lists. */
  sharedTakes: number;
};

/** `unpaired`: nothing speaks against pairing them now. Every other state but `same` forbids a sweep. */
export type PairingState =
  | 'same'
  | 'unpaired'
  | 'other-instance'
  | 'database-older'
  | 'media-older'
  | 'media-missing';

/**
 * Whether a database and a media folder belong together. A sweep may run only when they do: what one does not know of the other is
 * otherwise no sign that nobody needs it.
 */
export function pairingState({
  database,
  media,
  listedTakes,
  takeFolders,
  sharedTakes,
}: PairingFacts): PairingState {
  if (database && media) {
    if (database.id !== media.id) return 'other-instance';
    if (database.sweeps < media.sweeps) return 'database-older';
    // The database is counted first: a process that ended in between leaves it one ahead.
    return database.sweeps > media.sweeps + 1 ? 'media-older' : 'same';
  }
  // Both are new, or from a release that did not pair them yet. Takes tell whether they belong together.
  if (sharedTakes > 0 || (listedTakes === 0 && takeFolders === 0)) return 'unpaired';
  return takeFolders === 0 ? 'media-missing' : 'other-instance';
}

const SENTENCES: Record<Exclude<PairingState, 'same' | 'unpaired'>, string> = {
  'other-instance': 'The media folder belongs to another database.',
  'database-older': 'The database is older than the media folder, as after restoring a backup.',
  'media-older': 'The media folder is older than the database, as after restoring a backup.',
  'media-missing': 'The media folder is empty, but the database lists takes. Is its disk mounted?',
};

/** What to tell people about it. @returns null when database and media folder belong together */
export const pairingSentence = (state: PairingState): string | null =>
  state === 'same' || state === 'unpaired' ? null : SENTENCES[state];
