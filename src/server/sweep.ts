import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { ParcelId, SegmentId, TakeId } from '@/core/ids';
import type { SegmentPart } from '@/core/take';
import { parseUploadName } from '@/core/upload';
import { type JobSubject, Parcel, Segment, Take } from './db/entities';
import { type UnitOfWork, unitOfWork } from './db/orm';
import { orderAbandoned } from './jobs/abandoned';
import { lease } from './jobs/lease';
import {
  MADE_FILES,
  MAKING,
  makingDir,
  parcelOfScratch,
  parcelsDir,
  segmentPath,
  sizeOf,
  takeDir,
  takesDir,
  uploadsDir,
} from './store';

export type Orphan = { path: string; bytes: number; why: string };
export type SweepReport = {
  /** Files and folders that belong to nothing. */
  orphans: Orphan[];
  /** Rows of segments that can never get their bytes, because their take has ended without them. */
  emptySegments: string[];
  /** Takes and parcels whose jobs nobody worked on; ordered again. */
  ordered: JobSubject[];
  /** What rows speak of and the disk has not: nothing is done about these, only said. */
  missing: string[];
  /** Takes that wait for a browser to bring the rest. */
  waiting: number;
};

/**
 * Looks for what a killed process may have left: uploads of segments that nobody knows, folders of takes that are gone,
 * half-made files, jobs without a worker.
 * @param apply also removes them
 */
export async function sweep(apply: boolean): Promise<SweepReport> {
  const em = await unitOfWork();
  const orphans = [
    ...(await orphanUploads(em)),
    ...(await orphanTakeFiles(em)),
    ...(await orphanParcelFiles(em)),
  ];
  const ended = await em.find(
    Segment,
    { state: 'expected', track: { take: { state: ['ready', 'failed', 'finishing'] } } },
    { populate: ['track'] },
  );
  const report: SweepReport = {
    orphans,
    emptySegments: ended.map(({ id }) => id),
    ordered: apply ? await orderAbandoned() : [],
    missing: await missingFiles(em),
    waiting: await em.count(Take, { state: ['recording', 'uploading'] }),
  };
  if (apply) {
    for (const { path } of orphans) await rm(path, { recursive: true, force: true });
    await em.remove(ended).flush();
  }
  return report;
}

const names = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);

async function orphan(path: string, why: string): Promise<Orphan[]> {
  const found = await stat(path).catch(() => null);
  return found ? [{ path, bytes: found.size, why }] : [];
}

/** A segment's row is there before its upload, so an upload without a row belongs to nothing. */
async function orphanUploads(em: UnitOfWork): Promise<Orphan[]> {
  const orphans: Orphan[] = [];
  for (const name of await names(uploadsDir())) {
    const parsed = parseUploadName(name.replace(/\.json$/, ''));
    const path = join(uploadsDir(), name);
    const segment = parsed && (await em.findOne(Segment, { id: parsed.segment }));
    if (!parsed) orphans.push(...(await orphan(path, 'is no part of a segment')));
    else if (!segment) orphans.push(...(await orphan(path, 'its segment is not known')));
    else if (segment.state === 'confirmed')
      orphans.push(...(await orphan(path, 'its segment has been confirmed already')));
  }
  return orphans;
}

async function orphanTakeFiles(em: UnitOfWork): Promise<Orphan[]> {
  const orphans: Orphan[] = [];
  for (const folder of await names(takesDir())) {
    const id = TakeId.safeParse(folder);
    const take = id.success
      ? await em.findOne(Take, { id: id.data }, { populate: ['tracks.segments'] })
      : null;
    if (!take) {
      orphans.push(...(await orphan(join(takesDir(), folder), 'its take is not known')));
      continue;
    }
    const known = new Set(take.tracks.getItems().flatMap((t) => t.segments.getItems().map(({ id }) => id)));
    for (const name of await names(takeDir(take.id))) {
      const path = join(takeDir(take.id), name);
      const segment = SegmentId.safeParse(name.replace(/\.(media|index)$/, ''));
      if (name.includes(MAKING)) {
        // Whoever makes it holds the lease; while it is free, nobody does.
        const own = await lease(take.id);
        if (own) orphans.push(...(await orphan(path, 'was being made by a process that is gone')));
        await own?.release();
      } else if (segment.success && !known.has(segment.data))
        orphans.push(...(await orphan(path, 'its segment is not known')));
      else if (!segment.success && !(MADE_FILES as readonly string[]).includes(name))
        orphans.push(...(await orphan(path, 'is no file of a take')));
    }
  }
  return orphans;
}

/** Parcels without a row, and what a killed worker was making. */
async function orphanParcelFiles(em: UnitOfWork): Promise<Orphan[]> {
  const orphans: Orphan[] = [];
  for (const name of await names(parcelsDir())) {
    const id = ParcelId.safeParse(name);
    const parcel = id.success ? await em.findOne(Parcel, { id: id.data, deletedAt: null }) : null;
    if (!parcel) orphans.push(...(await orphan(join(parcelsDir(), name), 'its parcel is not known')));
  }
  for (const name of await names(makingDir())) {
    const own = await lease(parcelOfScratch(name));
    if (own)
      orphans.push(...(await orphan(join(makingDir(), name), 'was being made by a process that is gone')));
    await own?.release();
  }
  return orphans;
}

async function missingFiles(em: UnitOfWork): Promise<string[]> {
  const missing: string[] = [];
  const parts: SegmentPart[] = ['media', 'index'];
  for (const segment of await em.find(Segment, { state: 'confirmed' }, { populate: ['track'] }))
    for (const part of parts) {
      const path = segmentPath(segment.track.take.id, segment.id, part);
      if ((await sizeOf(path)) === null) missing.push(path);
    }
  return missing;
}

/** What a sweep found, in sentences. */
export function sweepText({ orphans, emptySegments, ordered, missing, waiting }: SweepReport): string {
  const bytes = orphans.reduce((sum, each) => sum + each.bytes, 0);
  const lines = [
    ...orphans.map(({ path, why }) => `orphan: ${path} ${why}`),
    ...emptySegments.map((id) => `row without bytes: segment ${id} of a take that has ended`),
    ...ordered.map((subject) => `job without a worker: ${subject}, ordered again`),
    ...missing.map((path) => `missing: ${path}, of which a row speaks`),
    `${orphans.length} orphan files (${bytes} bytes), ${emptySegments.length} rows without bytes, ${ordered.length} jobs ordered again, ${missing.length} files missing; ${waiting} takes wait for their browser.`,
  ];
  return lines.join('\n');
}
