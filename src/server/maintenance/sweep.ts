import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { type PairingState, pairingSentence } from '@/core/keeping/pairing';
import { SegmentPart } from '@/core/recording/take';
import { uploadName } from '@/core/recording/upload';
import { dropOldVersions } from '../cuts/cut-versions';
import { type JobSubject, Segment, Take } from '../db/entities';
import { type UnitOfWork, unitOfWork } from '../db/orm';
import { orderAbandoned } from '../jobs/abandoned';
import { countPairing, readPairing } from '../keeping/pairing';
import { emptyTrash, moveToTrash } from '../keeping/trash';
import { bytesOf, segmentPath, sizeOf, uploadsDir } from '../media/media-folder';
import { emptyOldBin } from './bin';
import { findStrays, withLeases } from './strays';

export type SweptStray = { path: string; bytes: number; reason: string; temporary: boolean };
export type SweepReport = {
  pairing: PairingState;
  /** Files and folders that no row refers to. */
  strays: SweptStray[];
  /** Rows of segments that can never get their bytes, because their take has ended without them. */
  emptySegments: string[];
  /** Takes and parcels whose jobs no worker had; ordered again. */
  ordered: JobSubject[];
  /** What rows refer to and the disk has not: nothing is done about these. */
  missing: string[];
  /** Takes that wait for a browser to send the rest. */
  waiting: number;
  /** What was in the bin or in the trash for longer than it is kept: deleted. */
  expired: string[];
};

const nothing = { strays: [], emptySegments: [], ordered: [], missing: [], waiting: 0, expired: [] };

/**
 * Looks for what a killed process may have left. Files that no row refers to are moved to `trash/` with the reason and the date, never
 * deleted; only half-made ones are, a day after the last write, and only while nobody holds the lease of whoever makes them. Nothing at
 * all is moved where database and media folder do not belong together.
 * @param apply otherwise only reports
 */
export async function sweep(apply: boolean): Promise<SweepReport> {
  let report: SweepReport = { ...nothing, pairing: await readPairing() };
  if (!apply) return pairingSentence(report.pairing) ? report : look(report.pairing);
  // One sweep at a time, on whatever machine.
  await withLeases(['sweep'], async () => {
    const pairing = await countPairing();
    report = pairingSentence(pairing) ? { ...nothing, pairing } : await clean(pairing);
  });
  return report;
}

async function look(pairing: PairingState): Promise<SweepReport> {
  const em = await unitOfWork();
  const strays = await findStrays();
  return {
    pairing,
    strays: await Promise.all(
      strays.map(async ({ path, reason, temporary }) => ({
        ...{ path, reason, temporary: temporary !== null },
        bytes: (await bytesOf(path)) ?? 0,
      })),
    ),
    emptySegments: (await emptySegments(em)).map(({ id }) => id),
    ordered: [],
    missing: await missingFiles(em),
    waiting: await em.count(Take, { state: ['recording', 'uploading'] }),
    expired: [],
  };
}

async function clean(pairing: PairingState): Promise<SweepReport> {
  const strays: SweptStray[] = [];
  for (const { path, reason, temporary, isStill } of await findStrays()) {
    const bytes = (await bytesOf(path)) ?? 0;
    let done = false;
    await withLeases(temporary?.leases ?? [], async () => {
      // Rows may have come while others were looked at: read again in the moment in which it is moved.
      if (!(await isStill())) return;
      if (temporary) await rm(path, { recursive: true, force: true });
      else await moveToTrash(path, reason);
      done = true;
    });
    if (done) strays.push({ path, bytes, reason, temporary: temporary !== null });
  }
  const em = await unitOfWork();
  const empty = await emptySegments(em);
  await em.remove(empty).flush();
  await dropOldVersions();
  const binned = (await emptyOldBin()).map(({ kind, title }) => `${kind} “${title}”`);
  const trashed = (await emptyTrash()).map(({ from }) => from);
  return {
    pairing,
    strays,
    emptySegments: empty.map(({ id }) => id),
    ordered: await orderAbandoned(),
    missing: await missingFiles(em),
    waiting: await em.count(Take, { state: ['recording', 'uploading'] }),
    expired: [...binned, ...trashed],
  };
}

/** Of takes that ended without them. One that was finished with what had arrived may still get its rest. */
async function emptySegments(em: UnitOfWork): Promise<Segment[]> {
  const expected = await em.find(
    Segment,
    { state: 'expected', track: { take: { state: ['ready', 'failed'], partial: false } } },
    { populate: ['track'] },
  );
  const files = await Promise.all(
    expected.map(async ({ id, track }) => {
      const paths = SegmentPart.options.flatMap((part) => [
        join(uploadsDir(), uploadName(id, part)),
        segmentPath(track.take.id, id, part),
      ]);
      return (await Promise.all(paths.map(sizeOf))).some((bytes) => (bytes ?? 0) > 0);
    }),
  );
  return expected.filter((_, i) => !files[i]);
}

async function missingFiles(em: UnitOfWork): Promise<string[]> {
  const missing: string[] = [];
  for (const segment of await em.find(Segment, { state: 'confirmed' }, { populate: ['track'] }))
    for (const part of SegmentPart.options) {
      const path = segmentPath(segment.track.take.id, segment.id, part);
      if ((await sizeOf(path)) === null) missing.push(path);
    }
  return missing;
}

const plural = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`;

/** What a sweep found, in sentences. @param apply whether it was done, or only looked at */
export function sweepText(report: SweepReport, apply: boolean): string {
  const differs = pairingSentence(report.pairing);
  if (differs)
    return `${differs} Nothing was swept. To list the takes in the media folder again, run npm run adopt.`;
  const { strays, emptySegments, ordered, missing, waiting, expired } = report;
  const bytes = strays.reduce((sum, each) => sum + each.bytes, 0);
  const moved = apply ? 'moved to trash' : 'would be moved to trash';
  const removed = apply ? 'removed' : 'would be removed';
  return [
    ...strays.map(({ path, reason, temporary }) => `${temporary ? removed : moved}: ${path} (${reason})`),
    ...emptySegments.map((id) => `${removed}: row of segment ${id}, whose take ended without it`),
    ...ordered.map((subject) => `job without a worker: ${subject}, ordered again`),
    ...missing.map((path) => `missing: ${path}`),
    ...expired.map((what) => `deleted after 30 days: ${what}`),
    `${plural(strays.length, 'stray file', 'stray files')} (${bytes} bytes), ${plural(emptySegments.length, 'empty row', 'empty rows')}, ${plural(ordered.length, 'job', 'jobs')} ordered again, ${plural(missing.length, 'file', 'files')} missing; ${plural(waiting, 'take waits', 'takes wait')} for a browser.`,
  ].join('\n');
}
