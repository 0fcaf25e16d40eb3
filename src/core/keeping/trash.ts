import { z } from 'zod';

/** Something that a sweep moved aside, as its `why.json` says. */
export const TrashEntry = z.object({
  /** Where it was, relative to the media folder. */
  from: z.string().min(1).max(300),
  reason: z.string().max(300),
  movedAt: z.iso.datetime(),
  bytes: z.int().min(0),
  /** Whether recorded media is in it. */
  recording: z.boolean(),
});
export type TrashEntry = z.infer<typeof TrashEntry>;

export const KEEP_DAYS = 30;
const DAY_MS = 24 * 3600 * 1000;

/** Whether something that was removed at a time is past the days for which it is kept. */
export const isPastKeeping = (removedAt: Date, now: Date): boolean =>
  now.getTime() - removedAt.getTime() > KEEP_DAYS * DAY_MS;

/** When it is deleted for good, if nobody puts it back. */
export const keptUntil = (removedAt: Date): Date => new Date(removedAt.getTime() + KEEP_DAYS * DAY_MS);

/** What a sweep moved aside because nothing refers to it. Recordings stay until somebody deletes them: the sweep may be wrong about them. */
export const isDisposable = (entry: TrashEntry, now: Date): boolean =>
  !entry.recording && isPastKeeping(new Date(entry.movedAt), now);
