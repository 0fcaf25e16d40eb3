import { stat } from 'node:fs/promises';
import type { SegmentId, TakeId } from '@/core/base/ids';
import { gridPhaseUs } from '@/core/base/rational';
import { gainsOf } from '@/core/cut/cut';
import type { CopySource, RecordedPicture, RenderTake, SoundInput } from '@/core/deliver/take-sources';
import { layoutOf } from '@/core/layout/layout-kinds';
import type { Packet } from '@/core/recording/packet';
import { segmentEndUs } from '@/core/recording/segment-end';
import { segmentRuns } from '@/core/recording/segment-runs';
import type { SegmentHead } from '@/core/recording/take';
import type { Take } from '../db/entities';
import { segmentHeads, takeBytes } from '../db/take-segments';
import { joinedInput } from '../media/joined';
import { measuredVideo } from '../media/measure';
import { heardPath, madePath, segmentPath, sizeOf } from '../media/media-folder';
import { probeFile } from '../media/probe-file';
import { readPackets } from '../takes/packet-index';

type Packets = { timesUs: number[]; keyframesUs: number[]; bytes: number; packets: Packet[] };

async function packetsOf(take: TakeId, run: readonly { id: SegmentId }[]): Promise<Packets> {
  const packets = await readPackets(take, run);
  return {
    packets,
    timesUs: packets.map(({ us }) => us),
    keyframesUs: packets.flatMap(({ us, key }) => (key ? [us] : [])),
    bytes: packets.reduce((sum, { bytes }) => sum + bytes, 0),
  };
}

type Heads = [SegmentHead, ...SegmentHead[]];

/** An unbroken run of segments with what was recorded in it; null where nothing was. */
async function readRun(take: TakeId, run: Heads): Promise<{ packets: Packets; path: string } | null> {
  const packets = await packetsOf(take, run);
  if (packets.timesUs.length === 0) return null;
  return { packets, path: await joinedInput(run.map(({ id }) => segmentPath(take, id, 'media'))) };
}

type Tracks = Pick<RenderTake, 'screens' | 'cameras' | 'sounds'> & {
  pictureBytes: number;
  /** Of the last run of the screen. */
  screenPackets: Packets | null;
};

/** The recorded tracks of a take; sounds that are heard processed are left out. */
async function readTracks(take: Take, durationUs: number): Promise<Tracks> {
  const read: Tracks = { screens: [], cameras: [], sounds: [], pictureBytes: 0, screenPackets: null };
  const heads = segmentHeads(take).filter(({ configuration }) => configuration.type !== 'events');
  for (const run of segmentRuns(heads)) {
    const { configuration, startUs, encoderDelayUs, track } = run[0];
    const found = await readRun(take.id, run);
    if (!found || configuration.type === 'events') continue;
    const { packets, path } = found;
    const endUs = segmentEndUs(packets.timesUs);
    if (configuration.type === 'audio') {
      const kind = track as SoundInput['track'];
      if (take.facts?.heard?.includes(kind)) continue;
      read.sounds.push({
        track: kind,
        path,
        startUs,
        endUs,
        encoderDelayUs,
        channels: configuration.channels,
      });
      continue;
    }
    read.pictureBytes += packets.bytes;
    const input: RecordedPicture = {
      ...{ path, size: { width: configuration.width, height: configuration.height }, startUs, endUs },
      ...{ timesUs: packets.timesUs, packets: packets.packets },
    };
    if (track === 'camera') read.cameras.push(input);
    else {
      // A still screen says nothing for as long as it is still: its last picture stands until the next segment.
      const before = read.screens.at(-1);
      if (before) before.endUs = startUs;
      read.screens.push({ ...input, endUs: durationUs });
      read.screenPackets = packets;
    }
  }
  return read;
}

/** The sounds of a take that are processed or moved in time: a file each, as long as the take. */
const readHeard = (take: Take, durationUs: number): Promise<SoundInput[]> =>
  Promise.all(
    (take.facts?.heard ?? []).map(async (track): Promise<SoundInput> => {
      const path = heardPath(take.id, track);
      const [sound] = (await probeFile(path)).sounds;
      return {
        track,
        path,
        startUs: 0,
        endUs: durationUs,
        encoderDelayUs: 0,
        channels: sound?.channels ?? 1,
      };
    }),
  );

/**
 * What a render needs to know of a take, from its rows and the packet indexes beside its segments.
 * @param take with tracks and segments
 */
export async function readRenderTake(take: Take): Promise<RenderTake & { pictureBytes: number }> {
  const durationUs = take.durationUs ?? 0;
  const rate = take.rig.picture.frameRate;
  const { screenPackets, ...tracks } = await readTracks(take, durationUs);
  const [screen, ...more] = tracks.screens;
  const plainPath = madePath(take.id, 'plain.mp4');
  const hasPlain = (await sizeOf(plainPath)) !== null;
  // Composing moved all pictures by their phase, to lay them on whole frames (`planPlainVideo`).
  const shiftUs = take.facts?.plainVideo?.pictureCopied ? 0 : gridPhaseUs(screen?.timesUs ?? [], rate);
  const copies: CopySource[] = [];
  if (hasPlain) copies.push(await copySource('plain', plainPath, null, shiftUs));
  if (screen && more.length === 0 && screenPackets)
    copies.push(await copySource('screen', screen.path, screenPackets, 0));
  return {
    ...{ id: take.id, durationUs, rate, size: screen?.size ?? null },
    plain: {
      layout: layoutOf(take.rig.camera),
      gains: gainsOf(take.rig),
      path: hasPlain ? plainPath : null,
    },
    ...tracks,
    sounds: [...tracks.sounds, ...(await readHeard(take, durationUs))],
    copies,
    bytes: takeBytes(take),
  };
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
  const { pictures, format } = await probeFile(path);
  const [picture] = pictures;
  if (!picture) throw new Error(`${path} has no picture.`);
  const read = packets ? { ...packets, reordered: false } : picture;
  const source: CopySource = {
    what,
    path,
    video: measuredVideo(picture),
    shiftUs,
    timesUs: read.timesUs.map((us) => us + shiftUs),
    keyframesUs: read.keyframesUs.map((us) => us + shiftUs),
    reordered: read.reordered,
    bytes: packets?.bytes ?? format.size,
  };
  known.set(key, source);
  if (known.size > 200) known.delete(known.keys().next().value ?? '');
  return source;
}
