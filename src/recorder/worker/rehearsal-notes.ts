import type { SegmentHead } from '@/core/recording/take';
import type { Rehearsed } from '../messages';
import { type ClaritySamples, openClaritySamples } from './clarity-samples';
import { openTakeTrace, type TakeTrace } from './take-trace';

/** What is noted of a rehearsal besides its files. */
export type RehearsalNotes = { trace: TakeTrace; samples: ClaritySamples };

/** @param lengthUs of the rehearsal */
export const openRehearsalNotes = (lengthUs: number, nowUs: () => number): RehearsalNotes => ({
  trace: openTakeTrace(nowUs),
  samples: openClaritySamples(lengthUs),
});

/** What a rehearsal that has ended came to. Text that cannot be compared is no reason to lose the figures. */
export async function rehearsedOf(
  { trace, samples }: RehearsalNotes,
  folder: FileSystemDirectoryHandle,
  segments: SegmentHead[],
): Promise<Rehearsed> {
  const clarity = await samples.measure(folder, segments).catch(() => null);
  return { ...trace.end(), clarity, segments };
}
