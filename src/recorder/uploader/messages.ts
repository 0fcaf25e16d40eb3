import { z } from 'zod';
import { TakeId } from '@/core/base/ids';
import { Problem } from '@/core/base/problem';

export const ToUploader = z.discriminatedUnion('type', [
  /** Look at the journals now. */
  z.object({ type: z.literal('now') }),
  /** The take's lesson is not there any more: put it into a new one. */
  z.object({ type: z.literal('adopt'), key: z.string() }),
  /** Make a journal readable again from its media, in a new lesson. */
  z.object({ type: z.literal('recover'), key: z.string() }),
  /** Its owner does not want it. */
  z.object({ type: z.literal('delete'), key: z.string() }),
]);
export type ToUploader = z.infer<typeof ToUploader>;

/** A recording of which something is still in this browser. */
export const WaitingRecording = z.object({
  /** Names its journal. */
  key: z.string(),
  /** Of the journal. */
  version: z.int(),
  /** Null where nothing says which take it is. */
  id: TakeId.nullable(),
  /** It is being recorded at this moment. */
  live: z.boolean(),
  localBytes: z.int(),
  sentBytes: z.int(),
  /** ISO 8601: when it began, or was last written where nothing says that. */
  startedAt: z.string(),
  /** Why it could not be sent in its last turn. */
  problem: Problem.nullable(),
});
export type WaitingRecording = z.infer<typeof WaitingRecording>;

/** Told after each turn, and when anything else changed. */
export const UploadNews = z.object({
  takes: z.array(WaitingRecording),
  /** Takes that have arrived whole since the page was opened. */
  arrived: z.array(z.object({ id: TakeId, cutOff: z.boolean(), durationUs: z.int() })),
  problem: Problem.nullable(),
  /** Another tab runs an earlier release: what that one recorded is left to it. */
  olderTab: z.boolean(),
  /** Another tab runs a later release: this page is out of date. */
  newerTab: z.boolean(),
  /** What was asked of the uploader and could not be done. */
  failed: Problem.nullable(),
});
export type UploadNews = z.infer<typeof UploadNews>;
