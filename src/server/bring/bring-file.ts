import { open, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type LessonId, newSegmentId, type TakeId } from '@/core/base/ids';
import type { Size } from '@/core/base/sizes';
import { broughtRig, broughtTitle, FROM_A_FILE, fileKind } from '@/core/recording/brought-in';
import { SegmentPart } from '@/core/recording/take';
import { uploadName } from '@/core/recording/upload';
import { Lesson, Take } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { found } from '../http/route';
import type { Report } from '../jobs/run-job';
import { lines } from '../media/ffmpeg';
import { originalPath, settle, sha256Of, sizeOf, uploadsDir } from '../media/media-folder';
import { announceSegment, confirmPart, createTake, discardTake, endTake } from '../takes/ingest';
import { changeTake } from '../takes/takes';
import { type Brought, type BroughtTrack, mediaTracks, slideTracks } from './brought-tracks';

/** A file that becomes a take. */
export type FileToBring = {
  lesson: LessonId;
  /** It is moved from here, once the take is there. */
  path: string;
  /** What it was called, for people. */
  name: string;
  take: TakeId;
  /** That slides are made in; null: that of the lesson’s pictures. */
  size: Size | null;
};

const USUAL_SIZE: Size = { width: 1920, height: 1080 };
const HEAD_BYTES = 4096;

/**
 * Makes a take of a file, like one that a browser sent: it can be cut, checked, delivered and shared like any other. The file itself is
 * kept beside it. What a killed try left of the take is taken up, or made again.
 * @returns the number of its slides; null for video and sound
 * @throws {ProblemError} `bad-media` when it is broken, dangerous or of no use
 */
export async function bringFile(
  file: FileToBring,
  report: Report,
  signal: AbortSignal,
): Promise<{ pages: number | null }> {
  const { lesson: lessonId, path, name, take, size } = file;
  const em = await unitOfWork();
  const begun = await em.findOne(Take, { id: take });
  if (begun && begun.state !== 'recording' && begun.state !== 'uploading') {
    if ((await sizeOf(path)) !== null) await settle(path, originalPath(take));
    return { pages: null };
  }
  if (begun) await discardTake(take);
  const lesson = found(await em.findOne(Lesson, { id: lessonId, deletedAt: null }), 'lesson');
  const kind = fileKind(await headOf(path));
  const folder = `${path}.parts`;
  const making = kind === 'media' ? 'Converting' : 'Rendering the slides';
  const onShare = (share: number) => report(making, 0.05 + share * 0.85);
  onShare(0);
  const brought =
    kind === 'media'
      ? await mediaTracks(path, folder, onShare, signal)
      : await slideTracks(kind, path, folder, size ?? (await sizeOfLesson(lesson)), onShare, signal);
  signal.throwIfAborted();
  const has = (track: string) => brought.tracks.some(({ head }) => head.track === track);
  const rig = broughtRig(lesson.rig, { picture: has('screen'), sound: has('voice') }, brought.rate);
  report('Adding the take', 0.92);
  await createTake({
    ...{ id: take, lessonId, rig, startedAt: new Date().toISOString(), browser: FROM_A_FILE },
    machine: { cores: 0, memoryGb: null },
  });
  try {
    await changeTake(take, { title: broughtTitle(name) });
    await send(take, brought, folder);
  } catch (error) {
    // Nothing half-made stays; the file is where it was.
    await discardTake(take);
    throw error;
  }
  await settle(path, originalPath(take));
  return { pages: brought.pages };
}

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** Of the lesson's newest take with a picture, or what its rig would give: slides are made as large. */
async function sizeOfLesson(lesson: Lesson): Promise<Size> {
  const em = await unitOfWork();
  const takes = await em.find(Take, { lesson, deletedAt: null }, { orderBy: { number: 'desc' } });
  const picture = takes.find(({ facts }) => facts?.picture)?.facts?.picture;
  return picture ? { width: picture.width, height: picture.height } : (lesson.rig.picture.box ?? USUAL_SIZE);
}

/** Hands the tracks over as a browser does. */
async function send(take: TakeId, { tracks, durationUs }: Brought, folder: string): Promise<void> {
  const sent = tracks.map((track) => ({ ...track, id: newSegmentId() }));
  for (const track of sent) {
    await announceSegment(take, {
      ...{ id: track.id, index: 0, startUs: 0, ...track.head },
      ...{ encoderDelayUs: 0, offsetUs: 0, offsetHow: 'declared', continues: false },
    });
    const parts = { media: track.path, index: await writeIndex(track, folder) };
    for (const part of SegmentPart.options) {
      const arrived = join(uploadsDir(), uploadName(track.id, part));
      await rename(parts[part], arrived);
      const bytes = (await sizeOf(arrived)) ?? 0;
      await confirmPart(take, track.id, { part, bytes, sha256: await sha256Of(arrived) });
    }
  }
  await endTake(take, {
    ...{ durationUs, pauses: [], ledger: {}, segments: sent.map(({ id }) => id) },
    ...{ absent: [], cutOff: false },
  });
}

/** The index of a track's packets, as a recorder writes it: `µs bytes key`, a line each. */
async function writeIndex({ path, head }: BroughtTrack, folder: string): Promise<string> {
  const index = join(folder, `${head.track}.index`);
  const packets: string[] = [];
  const args = ['-v', 'error', '-show_entries', 'packet=pts_time,size,flags', '-of', 'csv=p=0', '-i', path];
  await lines('ffprobe', args, (line) => {
    const [time = '', bytes = '', flags = ''] = line.split(',');
    const us = Math.round(Number.parseFloat(time) * 1e6);
    if (Number.isFinite(us))
      packets.push(`${Math.max(0, us)} ${Number.parseInt(bytes, 10) || 0} ${flags.startsWith('K') ? 1 : 0}`);
  });
  await writeFile(index, packets.map((line) => `${line}\n`).join(''));
  return index;
}
