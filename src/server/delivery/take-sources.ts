import { readFile, stat } from 'node:fs/promises';
import type { SegmentId, TakeId } from '@/core/base/ids';
import { gridPhaseUs } from '@/core/base/rational';
import { gainsOf } from '@/core/cut/cut';
import type {
  CopySource,
  Packet,
  RecordedPicture,
  RenderTake,
  SoundInput,
} from '@/core/deliver/take-sources';
import { layoutOf } from '@/core/layout/layout-kinds';
import { segmentRuns } from '@/core/recording/segment-runs';
import type { Take } from '../db/entities';
import { joinedInput } from '../media/joined';
import { measureFile, pictureTimes } from '../media/measure';
import { heardPath, madePath, segmentPath, sizeOf } from '../media/media-folder';

type Packets = { timesUs: number[]; keyframesUs: number[]; bytes: number; packets: Packet[] };

/** The packet indexes of segments that continue one another: `µs bytes key`, a line a packet. The last line of one that was cut off may be torn. */
async function packetsOf(take: TakeId, run: readonly { id: SegmentId }[]): Promise<Packets> {
  const packets: Packets = { timesUs: [], keyframesUs: [], bytes: 0, packets: [] };
  for (const { id } of run) {
    const text = await readFile(segmentPath(take, id, 'index'), 'utf8').catch(() => '');
    for (const line of text.split('\n')) {
      const [us, bytes, key] = line.split(' ');
      if (key === undefined) continue;
      packets.packets.push({ us: Number(us), bytes: Number(bytes), key: key === '1' });
      packets.timesUs.push(Number(us));
      packets.bytes += Number(bytes);
      if (key === '1') packets.keyframesUs.push(Number(us));
    }
  }
  return packets;
}

/** After the last packet its picture or sound still stands for about as long as the one before it did. */
const endOf = ({ timesUs }: Packets): number => {
  const [last = 0, before = 0] = [timesUs.at(-1), timesUs.at(-2)];
  return last + Math.min(100_000, Math.max(0, last - before));
};

/**
 * What a render needs to know of a take, from its rows and the packet indexes beside its segments.
 * @param take with tracks and segments
 */
export async function readRenderTake(take: Take): Promise<RenderTake & { pictureBytes: number }> {
  const durationUs = take.durationUs ?? 0;
  const read: RenderTake & { pictureBytes: number } = {
    id: take.id,
    durationUs,
    rate: take.rig.picture.frameRate,
    size: null,
    plain: {
      layout: layoutOf(take.rig.camera),
      gains: gainsOf(take.rig),
      path: (await sizeOf(madePath(take.id, 'plain.mp4'))) === null ? null : madePath(take.id, 'plain.mp4'),
    },
    screens: [],
    cameras: [],
    sounds: [],
    copies: [],
    bytes: take.tracks
      .getItems()
      .flatMap((track) => track.segments.getItems())
      .reduce((sum, { bytes }) => sum + (bytes ?? 0), 0),
    pictureBytes: 0,
  };
  const segments = take.tracks.getItems().flatMap((track) =>
    track.segments
      .getItems()
      .filter(({ configuration }) => configuration.type !== 'events')
      .map(({ id, index, startUs, configuration, encoderDelayUs, continues }) => ({
        ...{ id, index, startUs, configuration, encoderDelayUs, continues },
        track: track.kind,
      })),
  );
  let screenPackets: Packets | null = null;
  for (const run of segmentRuns(segments)) {
    const { configuration, startUs, encoderDelayUs, track: kind } = run[0];
    const packets = await packetsOf(take.id, run);
    if (configuration.type === 'events' || packets.timesUs.length === 0) continue;
    const path = await joinedInput(run.map(({ id }) => segmentPath(take.id, id, 'media')));
    if (configuration.type === 'audio') {
      const track = kind as SoundInput['track'];
      if (take.facts?.heard?.includes(track)) continue;
      read.sounds.push({
        track,
        path,
        startUs,
        endUs: endOf(packets),
        encoderDelayUs,
        channels: configuration.channels,
      });
      continue;
    }
    read.pictureBytes += packets.bytes;
    const size = { width: configuration.width, height: configuration.height };
    const input: RecordedPicture = {
      path,
      size,
      startUs,
      endUs: endOf(packets),
      timesUs: packets.timesUs,
      packets: packets.packets,
    };
    if (kind === 'camera') read.cameras.push(input);
    else {
      // A still screen says nothing for as long as it is still: its last picture stands until the next segment.
      const before = read.screens.at(-1);
      if (before) before.endUs = startUs;
      read.screens.push({ ...input, endUs: durationUs });
      screenPackets = packets;
    }
  }
  for (const track of take.facts?.heard ?? []) {
    const path = heardPath(take.id, track);
    const { sound } = await measureFile(path, { withLoudness: false });
    read.sounds.push({
      track,
      path,
      startUs: 0,
      endUs: durationUs,
      encoderDelayUs: 0,
      channels: sound?.channels ?? 1,
    });
  }
  const [screen] = read.screens;
  read.size = screen?.size ?? null;
  // Composing moved all pictures by their phase, to lay them on whole frames (`planPlainVideo`).
  const shiftUs = take.facts?.plainVideo?.pictureCopied ? 0 : gridPhaseUs(screen?.timesUs ?? [], read.rate);
  if (read.plain.path) read.copies.push(await copySource('plain', read.plain.path, null, shiftUs));
  if (screen && read.screens.length === 1 && screenPackets)
    read.copies.push(await copySource('screen', screen.path, screenPackets, 0));
  return read;
}

const known = new Map<string, CopySource>();

/** @param packets where they are known better than the file tells: Matroska rounds to milliseconds */
async function copySource(
  what: CopySource['what'],
  path: string,
  packets: Packets | null,
  shiftUs: number,
): Promise<CopySource> {
  // The segments of a finished take do not change; what is made of them does.
  const { mtimeMs, size } = packets ? { mtimeMs: 0, size: packets.bytes } : await stat(path);
  const key = `${path} ${mtimeMs} ${size}`;
  const before = known.get(key);
  if (before) return before;
  const measured = await measureFile(path, { withLoudness: false });
  if (!measured.video) throw new Error(`${path} has no picture.`);
  const read = packets ? { ...packets, reordered: false } : await pictureTimes(path);
  const source: CopySource = {
    what,
    path,
    video: measured.video,
    shiftUs,
    timesUs: read.timesUs.map((us) => us + shiftUs),
    keyframesUs: read.keyframesUs.map((us) => us + shiftUs),
    reordered: read.reordered,
    bytes: packets?.bytes ?? measured.bytes,
  };
  known.set(key, source);
  if (known.size > 200) known.delete(known.keys().next().value ?? '');
  return source;
}
