import {
  ALL_FORMATS,
  AudioSampleSink,
  Input,
  type InputAudioTrack,
  InputDisposedError,
  type InputVideoTrack,
  UrlSource,
} from 'mediabunny';
import type { TakeId } from '@/core/base/ids';
import type { FrameRate } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import type { Here as Place } from '@/core/cut/cut';
import type { Layout } from '@/core/layout/layout-kinds';
import { type SoundKind, TRACK_NAMES } from '@/core/recording/take';
import { type PlayerFile, type PlayerTake, PlayerTrack } from './messages';
import { openPictureLane, type PictureLane } from './picture-lane';

const END_AFTER_MS = 1500;

/** One segment of a picture track; times are the take's. */
export type Lane = {
  kind: 'screen' | 'camera';
  lane: PictureLane;
  size: Size;
  firstUs: number;
  lastUs: number;
};
export type SoundTrack = { kind: SoundKind; track: InputAudioTrack; shiftUs: number };

/** The opened tracks of one take. */
export type Reel = {
  take: TakeId;
  rate: FrameRate;
  lanes: Lane[];
  sounds: SoundTrack[];
  /** Lets go of its files; whatever still reads in them fails. */
  close: () => void;
};

/** Opens all files of a take. @throws when one cannot be read */
export async function openReel({ id, files, durationUs, rate }: PlayerTake): Promise<Reel> {
  const opened = files.map((file) => ({
    file,
    input: new Input({ source: new UrlSource(file.url), formats: ALL_FORMATS }),
  }));
  const close = () => {
    for (const { lane } of reel.lanes) lane.close();
    for (const { input } of opened) input.dispose();
  };
  const reel: Reel = { take: id, rate, lanes: [], sounds: [], close };
  try {
    await Promise.all(opened.map(({ file, input }) => readTracks(reel, input, file, durationUs)));
  } catch (error) {
    close();
    throw error;
  }
  // The screen is drawn first, whatever the order of the files.
  reel.lanes.sort((a, b) => (a.kind === b.kind ? a.firstUs - b.firstUs : a.kind === 'screen' ? -1 : 1));
  return reel;
}

async function readTracks(
  reel: Reel,
  input: Input,
  { track: wanted, without, shiftUs }: PlayerFile,
  durationUs: number,
) {
  for (const track of await input.getTracks()) {
    const kind = wanted === 'by-name' ? kindOf(track.name) : wanted;
    if (kind && without?.includes(kind)) continue;
    if (track.isVideoTrack() && (kind === 'screen' || kind === 'camera')) {
      const firstUs = Math.round((await track.getFirstTimestamp()) * 1e6) + shiftUs;
      const size = { width: track.displayWidth, height: track.displayHeight };
      const lane: Lane = { kind, lane: openPictureLane(track, shiftUs), size, firstUs, lastUs: durationUs };
      reel.lanes.push(lane);
      // Only a camera that went away early is asked for its end, and not while somebody waits for a first picture.
      if (kind === 'camera') setTimeout(() => void findEnd(lane, track, shiftUs), END_AFTER_MS);
    } else if (track.isAudioTrack() && (kind === 'voice' || kind === 'app-sound'))
      reel.sounds.push({ kind, track, shiftUs });
  }
}

async function findEnd(lane: Lane, track: InputVideoTrack, shiftUs: number): Promise<void> {
  try {
    lane.lastUs = Math.round((await track.computeDuration()) * 1e6) + shiftUs;
  } catch (error) {
    // The player may have been closed meanwhile, and its files with it.
    if (!(error instanceof InputDisposedError)) throw error;
  }
}

/** "Camera 2" is the second segment of the camera. */
const kindOf = (name: string | null): PlayerTrack | undefined =>
  PlayerTrack.options.find((track) => name?.startsWith(TRACK_NAMES[track]));

/** The screen's segment that stands at a time: the first one before anything was seen. */
export const screenAt = ({ lanes }: Reel, us: number): Lane | undefined =>
  lanes.findLast(({ kind, firstUs }) => kind === 'screen' && firstUs <= us + 1e5) ?? lanes[0];

/** The camera's segment that is seen at a time; none while it was away. */
export const cameraAt = ({ lanes }: Reel, us: number): Lane | undefined =>
  lanes.findLast(({ kind, firstUs, lastUs }) => kind === 'camera' && firstUs <= us && us <= lastUs + 1e5);

/** The segments that a layout shows at a time of a take; no other one is decoded to show it. */
export function seenAt(reel: Reel, us: number, layout: Layout): Lane[] {
  const camera = layout.kind === 'screen' ? undefined : cameraAt(reel, us);
  // A take without a screen has its camera in the screen’s place.
  return [...new Set([screenAt(reel, us), camera])].filter((lane) => lane !== undefined);
}

/** A place of the cut and the take that is seen there. */
export type Spot = { reel: Reel; place: Place };

/** The segments that are seen at a place. */
export const lanesSeen = ({ reel, place }: Spot): Lane[] => seenAt(reel, place.takeUs, place.step.layout);

/** The segments that a layout may show while a take runs. */
export function lanesIn({ lanes }: Reel, layout: Layout): Lane[] {
  const screens = lanes.filter(({ kind }) => kind === 'screen');
  return layout.kind === 'screen' && screens.length > 0 ? screens : lanes;
}

export type DecodedSound = { takeUs: number; sampleRate: number; planes: Float32Array<ArrayBuffer>[] };

/** Decodes sound from a time on; the first samples lie at it, those before are cut away. */
export async function* decodeSound(
  { track, shiftUs }: SoundTrack,
  fromUs: number,
  untilUs: number,
): AsyncGenerator<DecodedSound, void, void> {
  const sink = new AudioSampleSink(track);
  const toFile = (us: number) => Math.max(0, (us - shiftUs) / 1e6);
  for await (const sample of sink.samples(toFile(fromUs), toFile(untilUs))) {
    const startUs = Math.round(sample.timestamp * 1e6) + shiftUs;
    const { sampleRate, numberOfFrames, numberOfChannels } = sample;
    const framesAt = (us: number) => Math.round(((us - startUs) * sampleRate) / 1e6);
    const first = Math.max(0, Math.min(numberOfFrames, framesAt(fromUs)));
    const end = Math.max(first, Math.min(numberOfFrames, framesAt(untilUs)));
    const planes = Array.from({ length: numberOfChannels }, (_, planeIndex) => {
      const plane = new Float32Array(numberOfFrames);
      sample.copyTo(plane, { planeIndex, format: 'f32-planar' });
      return plane.slice(first, end);
    });
    sample.close();
    if (end > first) yield { takeUs: startUs + Math.round((first * 1e6) / sampleRate), sampleRate, planes };
  }
}
