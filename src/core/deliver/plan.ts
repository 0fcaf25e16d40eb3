import { ProblemError } from '../base/problem';
import type { FrameRate } from '../base/rational';
import type { Size } from '../base/sizes';
import { type Chapter, chaptersOf } from '../cut/chapters';
import { type Cut, cutLengthUs, type Gains } from '../cut/cut';
import type { Piece } from '../cut/piece';
import { type Destination, EXTENSIONS } from '../destination/destination';
import type { Layout } from '../layout/layout-kinds';
import { madeChannels, type SoundEncoding, soundEncoding } from './made-sound';
import { outputRate } from './output-shape';
import { copiedPicture, encodedPicture, type PlannedPicture } from './planned-picture';
import { firstCrf } from './quality';
import { type SoundPiece, soundPiece } from './sound-piece';
import type { RenderTake, SoundInput } from './take-sources';
import { framesUs, frameTimeline, type PiecedFrames } from './timeline';
import { type CopiedSound, chooseWay, copiedSound, soundAsPlain, type Way } from './way';

export type PlannedSound = {
  pieces: SoundPiece[];
  encoding: SoundEncoding;
  loudness: Destination['sound']['loudness'];
  /** Where it is there already; then nothing of the above is carried out. */
  copied: CopiedSound | null;
};

export type PlannedFile = {
  name: 'video' | 'screen' | 'camera' | 'voice' | 'app-sound';
  extension: string;
  picture: PlannedPicture | null;
  sound: PlannedSound | null;
  /** Of a video that is watched; tracks that are edited further have none. */
  chapters: readonly Chapter[];
};

export type RenderPlan = {
  way: Way;
  /** The finished file that is handed over unchanged, when nothing is to be done at all. */
  asItIs: string | null;
  files: PlannedFile[];
  durationUs: number;
  /** On which all pictures lie that are encoded. */
  rate: FrameRate;
  crf: number | null;
};

/** What all files of a plan are made of. */
type Job = {
  cut: Cut;
  destination: Destination;
  takes: readonly RenderTake[];
  timeline: readonly PiecedFrames[];
  rate: FrameRate;
  crf: number;
};

/**
 * What has to be done to make a parcel: which pictures are copied, which are composed and encoded, the sound to the sample. Everything is
 * decided here; `core/commands` writes it down for ffmpeg, and whoever runs that decides nothing.
 * @param crf other than the destination's own, when a first try was too large
 * @throws {ProblemError} `no-picture` when none of the takes has one; `no-frame` when the cut is shorter than half a frame
 */
export function planRender(
  cut: Cut,
  destination: Destination,
  takes: readonly RenderTake[],
  crf = firstCrf(destination),
): RenderPlan {
  const first = takes.find(({ id }) => id === cut.steps[0]?.pieces[0]?.take);
  if (!first?.size)
    throw new ProblemError({
      code: 'no-picture',
      message: 'There is no picture to deliver.',
      hint: 'Choose a take that was recorded with a picture.',
    });
  const way = chooseWay(cut, destination, takes);
  const rate = outputRate(first.rate, destination);
  const timeline = frameTimeline(cut, rate, timesFor(takes, way));
  const job: Job = { cut, destination, takes, timeline, rate, crf };
  const durationUs = way.way === 'whole' ? cutLengthUs(cut) : framesUs(timeline, rate);
  if (durationUs === 0)
    throw new ProblemError({
      code: 'no-frame',
      message: 'The video is shorter than a frame.',
      hint: 'Make a step longer in Edit.',
    });
  const plan = {
    way,
    durationUs,
    rate,
    crf: way.way === 'encode' ? crf : null,
  };
  if (destination.tracks === 'separate')
    return { ...plan, asItIs: null, files: separateFiles(job, first.size) };
  return {
    ...plan,
    asItIs: takenAsItIs(cut, destination, way, first),
    files: [mixedFile(job, way, first, first.size)],
  };
}

/** The recorded pictures whose phase a piece is laid on: those that will be seen. */
const timesFor =
  (takes: readonly RenderTake[], way: Way) =>
  (piece: Piece): readonly number[] => {
    const times =
      way.way === 'encode' || piece.take !== way.take.id
        ? takes.find(({ id }) => id === piece.take)?.screens[0]?.timesUs
        : way.source.timesUs;
    const own = (times ?? []).filter((us) => us >= piece.inUs && us < piece.outUs);
    return own.slice(0, 600);
  };

/** The plain video, where it is what the destination asks for to the last byte. */
function takenAsItIs(
  cut: Cut,
  { sound, container }: Destination,
  way: Way,
  { plain }: RenderTake,
): string | null {
  if (way.way !== 'whole' || way.source.what !== 'plain') return null;
  // The finished file knows nothing of steps.
  if (chaptersOf(cut).length > 0) return null;
  const soundIsRight = sound.loudness === null && sound.codec === 'aac' && soundAsPlain(cut, plain.gains);
  return soundIsRight && container === 'mp4' ? plain.path : null;
}

function mixedFile(job: Job, way: Way, first: RenderTake, size: Size): PlannedFile {
  const { cut, destination, takes, timeline, rate, crf } = job;
  const channels = madeChannels(
    destination,
    takes.flatMap(({ sounds }) => sounds),
  );
  const sound = plannedSound(job, channels, ['voice', 'app-sound'], null);
  return {
    name: 'video',
    extension: EXTENSIONS[destination.container],
    picture:
      way.way === 'encode'
        ? encodedPicture(timeline, takes, size, destination, rate, crf, 'picture', null)
        : copiedPicture(timeline, way, takes, size, destination, rate, 'picture'),
    sound: sound && { ...sound, copied: copiedSound(cut, destination, timeline, first, rate) },
    chapters: chaptersOf(cut),
  };
}

const UNCHANGED: Gains = { voiceDb: 0, appSoundDb: 0 };

/** Each track in a file of its own, for whoever edits further: nothing composed, nothing mixed. */
function separateFiles(job: Job, size: Size): PlannedFile[] {
  const { destination, takes, timeline, rate, crf } = job;
  const alone = (name: 'screen' | 'camera', own: Size, layout: Layout): PlannedFile => ({
    name,
    extension: EXTENSIONS[destination.container],
    picture: encodedPicture(timeline, takes, own, destination, rate, crf, name, layout),
    sound: null,
    chapters: [],
  });
  const [camera] = takes.flatMap(({ cameras }) => cameras);
  const sounds = (['voice', 'app-sound'] as const).flatMap((name): PlannedFile[] => {
    const sound = plannedSound(job, name === 'voice' ? 1 : 2, [name], UNCHANGED);
    return sound ? [{ name, extension: 'wav', picture: null, sound, chapters: [] }] : [];
  });
  return [
    alone('screen', size, { kind: 'screen' }),
    ...(camera ? [alone('camera', camera.size, { kind: 'camera', mirror: false, key: null })] : []),
    ...sounds,
  ];
}

function plannedSound(
  { destination, takes, timeline, rate }: Job,
  channels: 1 | 2,
  tracks: readonly SoundInput['track'][],
  gains: Gains | null,
): PlannedSound | null {
  if (!takes.some(({ sounds }) => sounds.some(({ track }) => tracks.includes(track)))) return null;
  const pieces = timeline.map((pieced, i) => {
    const inputs = takes.find(({ id }) => id === pieced.piece.take)?.sounds ?? [];
    return soundPiece(pieced, inputs, tracks, gains, rate, timeline[i + 1]?.continues !== true);
  });
  return {
    pieces,
    encoding: soundEncoding(destination, channels),
    loudness: destination.sound.loudness,
    copied: null,
  };
}
