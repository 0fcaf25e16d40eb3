import { join } from 'node:path';
import { IncomingId, ParcelId, SegmentId, TakeId } from '@/core/base/ids';
import { Format } from '@/core/codec/formats';
import { parseUploadName } from '@/core/recording/upload';
import { isExpected } from '../bring/incoming';
import { Parcel, Segment, Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { type Lease, lease } from '../jobs/lease';
import {
  changedAt,
  inspectionDir,
  MADE_FILES,
  MAKING,
  makingDir,
  namesIn,
  ORIGINAL,
  parcelOfScratch,
  parcelsDir,
  TAKE_DOCUMENT,
  takeDir,
  takesDir,
  uploadsDir,
} from '../media/media-folder';

/** Something in the media folder that no row refers to. */
export type Stray = {
  path: string;
  reason: string;
  /** Half-made by a process that is gone: removed, not moved aside. The leases are those of all who could still be at it. */
  temporary: { leases: string[] } | null;
  /** Reads the rows again: whether it is still a stray. */
  isStill: () => Promise<boolean>;
};

/** A file that was touched since may be in the making by a process whose lease is about to be taken. */
const TEMPORARY_AFTER_MS = 24 * 3_600_000;

const moved = (path: string, reason: string, isStill: () => Promise<boolean>): Stray => ({
  path,
  reason,
  temporary: null,
  isStill,
});
const temporary = (path: string, leases: string[]): Stray => ({
  path,
  reason: 'left half-made by a process that is gone',
  temporary: { leases },
  isStill: async () => {
    const at = await changedAt(path);
    return at !== null && Date.now() - at > TEMPORARY_AFTER_MS;
  },
});

/** Everything that no row refers to. Nothing is done about it here. */
export async function findStrays(): Promise<Stray[]> {
  const all = [...(await strayUploads()), ...(await strayTakeFiles()), ...(await strayParcelFiles())];
  for (const name of await namesIn(inspectionDir())) {
    const incoming = IncomingId.safeParse(name.split('.')[0]);
    if (incoming.success && (await isExpected(incoming.data))) continue;
    all.push(temporary(join(inspectionDir(), name), incoming.success ? [incoming.data] : []));
  }
  const still = await Promise.all(all.map((stray) => stray.isStill()));
  return all.filter((_, i) => still[i]);
}

/** A segment's row is there before its upload, so an upload without a row belongs to nothing that is known. */
async function strayUploads(): Promise<Stray[]> {
  const strays: Stray[] = [];
  for (const name of await namesIn(uploadsDir())) {
    const parsed = parseUploadName(name.replace(/\.json$/, ''));
    const path = join(uploadsDir(), name);
    if (!parsed) {
      strays.push(moved(path, 'not a part of a segment', async () => true));
      continue;
    }
    const state = async () =>
      (await (await unitOfWork()).findOne(Segment, { id: parsed.segment }))?.state ?? 'unknown';
    if ((await state()) === 'unknown')
      strays.push(moved(path, 'no segment of that name', async () => (await state()) === 'unknown'));
    else if ((await state()) === 'confirmed')
      strays.push(moved(path, 'segment is complete without it', async () => (await state()) === 'confirmed'));
  }
  return strays;
}

const takeExists = async (id: TakeId) => (await (await unitOfWork()).count(Take, { id })) > 0;
const segmentExists = async (id: SegmentId) => (await (await unitOfWork()).count(Segment, { id })) > 0;
const parcelExists = async (id: ParcelId) => (await (await unitOfWork()).count(Parcel, { id })) > 0;

async function strayTakeFiles(): Promise<Stray[]> {
  const strays: Stray[] = [];
  const ours: readonly string[] = [...MADE_FILES, TAKE_DOCUMENT, ORIGINAL];
  for (const folder of await namesIn(takesDir())) {
    const id = TakeId.safeParse(folder);
    if (!id.success) {
      strays.push(moved(join(takesDir(), folder), 'not a take', async () => true));
      continue;
    }
    if (!(await takeExists(id.data))) {
      const isStill = async () => !(await takeExists(id.data));
      strays.push(moved(join(takesDir(), folder), 'no take of that name', isStill));
      continue;
    }
    for (const name of await namesIn(takeDir(id.data))) {
      const path = join(takeDir(id.data), name);
      const segment = SegmentId.safeParse(name.replace(/\.(media|index)$/, ''));
      if (name.includes(MAKING)) strays.push(temporary(path, leasesOfTake(id.data)));
      else if (segment.success)
        strays.push(moved(path, 'no segment of that name', async () => !(await segmentExists(segment.data))));
      else if (!ours.includes(name)) strays.push(moved(path, 'not a file of a take', async () => true));
    }
  }
  return strays;
}

/** Whoever makes files in a take's folder holds one of these. */
const leasesOfTake = (take: TakeId): string[] => [
  take,
  ...Format.options.map((format) => `${take}.${format}`),
  `${take}.copies`,
];

async function strayParcelFiles(): Promise<Stray[]> {
  const strays: Stray[] = [];
  for (const name of await namesIn(parcelsDir())) {
    const id = ParcelId.safeParse(name);
    const isStill = async () => !id.success || !(await parcelExists(id.data));
    strays.push(moved(join(parcelsDir(), name), 'no parcel of that name', isStill));
  }
  for (const name of await namesIn(makingDir()))
    strays.push(temporary(join(makingDir(), name), [parcelOfScratch(name)]));
  return strays;
}

/** Holds all of a stray's leases while something is done. @returns whether it was: not when somebody holds one of them */
export async function withLeases(names: readonly string[], work: () => Promise<void>): Promise<boolean> {
  const held: Lease[] = [];
  try {
    for (const name of names) {
      const own = await lease(name);
      if (!own) return false;
      held.push(own);
    }
    await work();
    return true;
  } finally {
    for (const each of held) await each.release();
  }
}
