import type { TakeId } from '@/core/base/ids';
import { heardInput } from '@/core/deliver/heard-sound';
import type { PlainInput } from '@/core/deliver/plain-input';
import { segmentRuns } from '@/core/recording/segment-runs';
import type { SegmentHead } from '@/core/recording/take';
import type { Take } from '../db/entities';
import { segmentHeads } from '../db/take-segments';
import { firstCluster, joinedInput } from '../media/joined';
import { heardPath, segmentPath, sizeOf } from '../media/media-folder';
import { packetTimes } from '../media/probe';

/** A segment and those that continue it, with what their files really hold. */
export type Part = {
  head: Pick<SegmentHead, 'id' | 'track' | 'index' | 'startUs' | 'configuration' | 'encoderDelayUs'>;
  /** An input of ffmpeg; a file, where nothing continues it. */
  path: string;
  timesUs: number[];
  bytes: number;
};

export const partInput = ({ head, path, timesUs }: Part): PlainInput => ({ ...head, path, timesUs });

/** Every segment that has a file, with what the file really holds; those that continue one another are one part. */
export async function readParts(take: Take): Promise<Part[]> {
  const parts = await Promise.all(segmentRuns(segmentHeads(take)).map((run) => readRun(take.id, run)));
  return parts
    .flat()
    .filter(({ head, timesUs }) => head.configuration.type === 'events' || timesUs.length > 0)
    .sort((a, b) => a.head.startUs - b.head.startUs);
}

async function readRun(take: TakeId, run: readonly Part['head'][]): Promise<Part[]> {
  const files = run.map((head) => ({ head, path: segmentPath(take, head.id, 'media') }));
  const sizes = await Promise.all(files.map(holds));
  // A segment that was opened and got nothing before the end is nothing to play.
  const there = files.flatMap((file, i) => (sizes[i] ? [{ ...file, bytes: sizes[i] ?? 0 }] : []));
  const [first] = there;
  if (!first) return [];
  // Lines of events are read file by file.
  if (first.head.configuration.type === 'events') return there.map((file) => ({ ...file, timesUs: [] }));
  const path = await joinedInput(there.map((file) => file.path));
  const { format, timesUs } = await packetTimes(path);
  if (!format.includes('matroska')) throw new Error(`Segment ${first.head.id} is ${format}, not Matroska.`);
  return [{ head: first.head, path, timesUs, bytes: there.reduce((sum, { bytes }) => sum + bytes, 0) }];
}

/** Bytes of a segment's file; 0 where there is nothing in it but a head. */
async function holds({ head, path }: Pick<Part, 'head' | 'path'>): Promise<number> {
  const bytes = (await sizeOf(path)) ?? 0;
  if (head.configuration.type === 'events' || bytes === 0) return bytes;
  return (await firstCluster(path)) === null ? 0 : bytes;
}

/** The tracks of a finished take as they are seen and heard: a sound that is treated or moved in time is a file of its own. */
export async function readInputs(take: Take): Promise<PlainInput[]> {
  const heard = take.facts?.heard ?? [];
  const inputs = (await readParts(take))
    .filter(({ head }) => head.configuration.type !== 'events')
    .map(partInput);
  return [
    ...inputs.filter(({ track }) => !heard.some((each) => each === track)),
    ...heard.map((track) => heardInput(track, heardPath(take.id, track), inputs, take.durationUs ?? 0)),
  ];
}
