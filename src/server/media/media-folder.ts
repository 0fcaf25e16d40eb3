import { createHash, randomBytes } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat, statfs } from 'node:fs/promises';
import { dirname, join, parse } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { IncomingId, ParcelId, SegmentId, TakeId } from '@/core/base/ids';
import type { Format } from '@/core/codec/formats';
import type { SoundTrackKind } from '@/core/deliver/heard-sound';
import type { SegmentPart } from '@/core/recording/take';
import { config } from '../process/config';

/** Where media lies. Every path is built from ids and fixed words; nothing a request says becomes part of one. */
export const mediaDir = () => join(config().dataDir, 'media');
export const takesDir = () => join(mediaDir(), 'takes');
export const uploadsDir = () => join(mediaDir(), 'uploads');
export const takeDir = (take: TakeId) => join(takesDir(), take);

export const parcelsDir = () => join(mediaDir(), 'parcels');
export const parcelDir = (parcel: ParcelId) => join(parcelsDir(), parcel);
export const makingDir = () => join(mediaDir(), 'making');
/** A folder to make a parcel in; gone as soon as it is made or given up. Never the same twice: a sweep may be at the old one. */
export const newScratchDir = (parcel: ParcelId) =>
  join(makingDir(), `${parcel}.${randomBytes(6).toString('hex')}`);
/** All folders in which a parcel is or was being made. */
export const scratchDirs = async (parcel: ParcelId): Promise<string[]> =>
  (await namesIn(makingDir()))
    .filter((name) => parcelOfScratch(name) === parcel)
    .map((name) => join(makingDir(), name));
/** The parcel that is made in a folder of that name. */
export const parcelOfScratch = (name: string): string => name.split('.')[0] ?? '';

/** Files that are looked at once. */
export const inspectionDir = () => join(mediaDir(), INSPECTED);
export const INSPECTED = 'inspected';
/** Where a file waits that becomes a take; its converted tracks are beside it, in `.parts`. */
export const incomingPath = (id: IncomingId) => join(inspectionDir(), id);
/** A place for one of them. */
export const inspectionPath = () => join(inspectionDir(), randomBytes(12).toString('hex'));

/** What sweeps moved aside: a folder each, with the thing and a `why.json` (`core/keeping/trash.ts`). */
export const trashDir = () => join(mediaDir(), 'trash');
/** The media folder's half of its pairing with the database. */
export const pairingPath = () => join(mediaDir(), 'instance.json');
/** What a take's folder says of the take. */
export const TAKE_DOCUMENT = 'take.json';
export const takeDocumentPath = (take: TakeId) => join(takeDir(take), TAKE_DOCUMENT);

/** The files that finishing makes of a take. */
export const MADE_FILES = [
  'plain.mp4',
  'recorded.mkv',
  'thumbnail.jpg',
  'peaks.json',
  // Sounds as they are heard, where that is not as they were recorded.
  'voice.mka',
  'app-sound.mka',
  // What was asked for beside them.
  'made.mov',
  'made.webm',
  'made.m4a',
  'made.mp3',
  'made.flac',
  'made.wav',
  'made.opus',
] as const;
export type MadeFile = (typeof MADE_FILES)[number];

export const madePath = (take: TakeId, file: MadeFile) => join(takeDir(take), file);
export const formatPath = (take: TakeId, format: Format) => madePath(take, `made.${format}`);
export const heardPath = (take: TakeId, track: SoundTrackKind) => madePath(take, `${track}.mka`);
export const segmentPath = (take: TakeId, segment: SegmentId, part: SegmentPart) =>
  join(takeDir(take), `${segment}.${part === 'media' ? 'media' : 'index'}`);

/** The imported file of which a take was made. */
export const ORIGINAL = 'original';
export const originalPath = (take: TakeId) => join(takeDir(take), ORIGINAL);

/** SHA-256 of a file, hex, read once in a stream. */
export async function sha256Of(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** Bytes of a file; null when there is none. */
export const sizeOf = (path: string): Promise<number | null> =>
  stat(path).then(
    ({ size }) => size,
    () => null,
  );

/** When a file was last written, ms since 1970; null when there is none. */
export const changedAt = (path: string): Promise<number | null> =>
  stat(path).then(
    ({ mtimeMs }) => mtimeMs,
    () => null,
  );

/** Bytes of a file, or of everything in a folder; null when there is none. */
export async function bytesOf(path: string): Promise<number | null> {
  const found = await stat(path).catch(() => null);
  if (!found) return null;
  if (!found.isDirectory()) return found.size;
  const inside = await Promise.all((await namesIn(path)).map((name) => bytesOf(join(path, name))));
  return inside.reduce<number>((sum, bytes) => sum + (bytes ?? 0), 0);
}

/** Names in a folder; none when there is no such folder. */
export const namesIn = (folder: string): Promise<string[]> =>
  readdir(folder).catch((error) => {
    if (error.code === 'ENOENT' || error.code === 'ENOTDIR') return [];
    throw error;
  });

/** Bytes that are free where media arrives. */
export async function freeBytes(): Promise<number> {
  await mkdir(uploadsDir(), { recursive: true });
  const { bavail, bsize } = await statfs(uploadsDir());
  return bavail * bsize;
}

/** Gives a finished file its name: on disk first, then visible, so that a name never stands for half a file. */
export async function settle(from: string, to: string): Promise<void> {
  await mkdir(dirname(to), { recursive: true });
  const file = await open(from, 'r');
  await file.sync();
  await file.close();
  await rename(from, to);
  const folder = await open(dirname(to), 'r');
  await folder.sync();
  await folder.close();
}

/** In the names of files that are being made; left behind only by a killed process. */
export const MAKING = '.making-';

/** A name to make a file under. Never the same twice: a worker that lost its lease may still be at its own. */
export function temporaryFor(path: string): string {
  const { dir, name, ext } = parse(path);
  return join(dir, `${name}${MAKING}${randomBytes(6).toString('hex')}${ext}`);
}

/**
 * Makes a file under a temporary name and settles it when `make` has succeeded; otherwise nothing stays.
 */
export async function makeFile(path: string, make: (temporary: string) => Promise<void>): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const temporary = temporaryFor(path);
  try {
    await make(temporary);
    await settle(temporary, path);
  } finally {
    await rm(temporary, { force: true });
  }
}
