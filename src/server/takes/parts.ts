import { heardInput } from '@/core/heard-sound';
import type { PlainInput } from '@/core/plain-input';
import type { SegmentHead } from '@/core/take';
import type { Take } from '../db/entities';
import { packetTimes } from '../media/probe';
import { heardPath, segmentPath, sizeOf } from '../store';

/** A confirmed segment, with what its file really holds. */
export type Part = {
  head: Pick<SegmentHead, 'id' | 'track' | 'index' | 'startUs' | 'configuration' | 'encoderDelayUs'>;
  path: string;
  timesUs: number[];
  bytes: number;
};

export const partInput = ({ head, path, timesUs }: Part): PlainInput => ({ ...head, path, timesUs });

/** Every confirmed segment with what its file really holds. A file that is no Matroska fails the job by name. */
export async function readParts(take: Take): Promise<Part[]> {
  const segments = take.tracks.getItems().flatMap((track) =>
    track.segments.getItems().map(({ id, index, startUs, configuration, encoderDelayUs }) => ({
      id,
      index,
      startUs,
      configuration,
      encoderDelayUs,
      track: track.kind,
    })),
  );
  const read = async (head: Part['head']): Promise<Part | null> => {
    const path = segmentPath(take.id, head.id, 'media');
    const bytes = (await sizeOf(path)) ?? 0;
    if (head.configuration.type === 'events') return { head, path, bytes, timesUs: [] };
    // A segment that was opened and got no packet before the end is nothing to play.
    if (bytes === 0) return null;
    const { format, timesUs } = await packetTimes(path);
    if (!format.includes('matroska')) throw new Error(`Segment ${head.id} is ${format}, not Matroska.`);
    return { head, path, bytes, timesUs };
  };
  const parts = (await Promise.all(segments.map(read))).filter((part) => part !== null);
  return parts
    .filter(({ head, timesUs }) => head.configuration.type === 'events' || timesUs.length > 0)
    .sort((a, b) => a.head.startUs - b.head.startUs);
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
