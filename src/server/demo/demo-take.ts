import { copyFile, mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { type LessonId, newSegmentId, newTakeId, type TakeId } from '@/core/base/ids';
import { SegmentHead, SegmentPart, TakeEnd, TakeHead } from '@/core/recording/take';
import { uploadName } from '@/core/recording/upload';
import { sha256Of, sizeOf, uploadsDir } from '../media/media-folder';
import { announceSegment, confirmPart, createTake, endTake } from '../takes/ingest';

/** A take as the demo ships it: what a browser would say of it, without the ids. `npm run demo-takes` records it. */
export const DemoTake = z.object({
  head: TakeHead.omit({ id: true, lessonId: true, startedAt: true, browser: true }),
  segments: z.array(SegmentHead.omit({ id: true })),
  end: TakeEnd.omit({ segments: true }),
});
export type DemoTake = z.infer<typeof DemoTake>;

/** Who sent such a take; no browser is called so. */
export const DEMO_BROWSER = 'shipped with the demo';

/** Where a shipped take lies. */
export const demoTakeDir = (name: string) => join('src/server/demo/takes', name);
/** Files of a shipped segment are called by track and number: ids are new in every database. */
export const demoFile = ({ track, index }: Pick<SegmentHead, 'track' | 'index'>, part: SegmentPart) =>
  `${track}-${index}.${part === 'index' ? 'index' : track === 'events' ? 'jsonl' : 'mkv'}`;

export const readDemoTake = async (name: string): Promise<DemoTake> =>
  DemoTake.parse(JSON.parse(await readFile(join(demoTakeDir(name), 'take.json'), 'utf8')));

/** Brings a shipped take into a lesson, as if a browser had just sent it; workers finish it like any other. */
export async function bringDemoTake(lessonId: LessonId, name: string, startedAt: Date): Promise<TakeId> {
  const { head, segments, end } = await readDemoTake(name);
  const id = newTakeId();
  await createTake({ ...head, browser: DEMO_BROWSER, id, lessonId, startedAt: startedAt.toISOString() });
  await mkdir(uploadsDir(), { recursive: true });
  const sent = segments.map((segment) => ({ ...segment, id: newSegmentId() }));
  for (const segment of sent) {
    await announceSegment(id, segment);
    for (const part of SegmentPart.options) {
      const arrived = join(uploadsDir(), uploadName(segment.id, part));
      await copyFile(join(demoTakeDir(name), demoFile(segment, part)), arrived);
      const bytes = (await sizeOf(arrived)) ?? 0;
      await confirmPart(id, segment.id, { part, bytes, sha256: await sha256Of(arrived) });
    }
  }
  await endTake(id, { ...end, segments: sent.map((segment) => segment.id) });
  return id;
}
