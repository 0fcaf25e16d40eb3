import type { Page } from '@playwright/test';
import { type LessonId, newStepId, type ParcelId, type TakeId } from '@/core/base/ids';
import { type Cut, defaultCut, gainsOf } from '@/core/cut/cut';
import { firstCrf } from '@/core/deliver/quality';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import type { Rig } from '@/core/rig/rig';
import type { ParcelFacts } from '@/core/views/parcel';
import { launch, withProfile } from '../../tests/support/browser';
import { rows, signal } from '../../tests/support/processes';
import { type Lab, openLab } from './bench';

export type Recorded = { lesson: LessonId; take: TakeId; durationUs: number; rig: Rig };

/** Records a take in the lab page and waits until it is finished. */
export async function recordTake(page: Page, rig: Rig, seconds: number): Promise<Recorded> {
  const { lesson, take, durationUs } = await page.evaluate(
    async ([wish, seconds]) => {
      const { lab } = window as unknown as { lab: Lab };
      lab.startUploader();
      const lesson = await lab.newLesson('Bench');
      const { takeId, end } = await lab.record(lesson, wish, seconds);
      await lab.finished(takeId);
      return { lesson, take: takeId, durationUs: end.durationUs };
    },
    [rig, seconds] as const,
  );
  return { lesson: lesson as LessonId, take, durationUs, rig };
}

/** Lends a finished take while the studio's own worker stands still, so that what is made of it is made here. */
export function withRecorded<T>(
  url: string,
  rig: Rig,
  seconds: number,
  work: (recorded: Recorded) => Promise<T>,
): Promise<T> {
  return withProfile(async (profile) => {
    const browser = await launch(profile);
    const recorded = await recordTake(await openLab(browser, url), rig, seconds);
    await browser.close();
    signal('worker', 'SIGSTOP');
    try {
      return await work(recorded);
    } finally {
      signal('worker', 'SIGCONT');
    }
  });
}

/** A destination that ships, without its ceiling: whatever comes of it, one attempt is made. */
export function unlimited(id: string): Destination {
  const found = DESTINATIONS.find((each) => each.id === id);
  if (!found) throw new Error(`There is no destination ${id}.`);
  return { ...found, maxBytes: null };
}

/** The cut of a whole take. */
export const wholeCut = ({ take, durationUs, rig }: Recorded): Cut =>
  defaultCut(newStepId(), {
    id: take,
    durationUs,
    camera: rig.camera?.place ?? null,
    gains: gainsOf(rig),
  });

/**
 * Makes a parcel in this process, where it can be measured; the studio's own worker must stand still.
 * @param isSampled whether three seconds were encoded before it was ordered, as when the page has told of it
 * @returns its id, what was found in it, where its encoding began, and how long the job took
 */
export async function makeHere(
  { lesson }: Recorded,
  cut: Cut,
  destination: Destination,
  isSampled = false,
): Promise<{ id: ParcelId; facts: ParcelFacts; firstCrf: number; seconds: number }> {
  const { saveCut } = await import('@/server/cuts/cuts');
  const { foreseeParcel, orderParcel, readParcel } = await import('@/server/delivery/parcels');
  const { renderParcel } = await import('@/server/tasks/render-parcel');
  const [row] = await rows<{ revision: number }>('select revision from cut where lesson_id = $1', [lesson]);
  await saveCut(lesson, { cut, revision: row?.revision ?? 0 });
  if (isSampled) await foreseeParcel(lesson, destination, true);
  const { id, plan } = await orderParcel(lesson, destination);
  const began = performance.now();
  await renderParcel(id);
  const seconds = (performance.now() - began) / 1000;
  const { facts, job } = await readParcel(id);
  if (!facts) throw new Error(`The parcel could not be made: ${job?.problem}`);
  return { id, facts, firstCrf: plan.attempt?.crf ?? firstCrf(destination), seconds };
}
