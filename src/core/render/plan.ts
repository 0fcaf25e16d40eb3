import { codecName } from '../codecs';
import { type Chapter, chaptersOf } from '../cut/chapters';
import type { Cut, Gains, Layout, Piece } from '../cut/cut';
import { cutLengthUs } from '../cut/cut';
import { type Destination, EXTENSIONS } from '../destination';
import { levelText } from '../figures';
import { ProblemError } from '../problem';
import { type FrameRate, framesPerSecond, frameTimeUs } from '../rational';
import type { Size } from '../sizes';
import { boundaryEncoderArgs, firstCrf, keyframeEveryS, madeCodec, pictureEncoderArgs } from './encoder-args';
import { madeChannels, madeKbps } from './made-sound';
import { type OutputShape, outputFilters, outputRate, outputShape } from './output-shape';
import { type GraphFile, type PictureInput, pictureGraph } from './picture-graph';
import { type SoundPiece, soundPiece } from './sound-graph';
import type { CopySource, RenderTake } from './take-sources';
import { framesUs, frameTimeline, type PiecedFrames } from './timeline';
import { type CopiedSound, chooseWay, copiedSound, copyable, soundAsPlain, type Way } from './way';

/** A stretch of a finished picture track; they follow one another without a gap. */
export type PicturePart = {
  /** Where it begins in the video. */
  atUs: number;
} & (
  | {
      kind: 'encode';
      frames: number;
      durationUs: number;
      /** ffmpeg's arguments, all of them. */
      args: string[];
      path: string;
      files: GraphFile[];
      /** Raw luma of some composed pictures, before they are encoded; numbers are the part's own. */
      reference: { path: string; frames: number[] };
    }
  | {
      /** On the file's own times. */ kind: 'copy';
      path: string;
      fromUs: number;
      toUs: number;
    }
);

export type PlannedPicture = {
  /** Of the composed picture, before scaling. */
  size: Size;
  shape: OutputShape;
  /** Null where copied pictures keep their own uneven times. */
  rate: FrameRate | null;
  parts: PicturePart[];
};

export type PlannedSound = {
  channels: 1 | 2;
  pieces: SoundPiece[];
  /** Arguments of the encoder. */
  encoder: string[];
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
  /** The finished file that is taken as it is, when nothing is to be done at all. */
  asItIs: string | null;
  files: PlannedFile[];
  durationUs: number;
  /** On which all pictures lie that are encoded. */
  rate: FrameRate;
  crf: number | null;
};

/** Pictures of the whole video that are compared with what came out. */
const COMPARED = 40;
/** Closer together they say the same. */
const COMPARED_APART_S = 0.5;

/**
 * What has to be done to make a parcel: which pictures are copied, which are composed and encoded and how, the sound to the sample.
 * Nothing but arguments and paths comes out; whoever runs them decides nothing.
 * @param scratch folder for what lies between
 * @param crf other than the destination's own, when a first try was too large
 * @throws {ProblemError} `no-picture` when none of the takes has one
 */
export function planRender(
  cut: Cut,
  destination: Destination,
  takes: readonly RenderTake[],
  scratch: string,
  crf = firstCrf(destination),
): RenderPlan {
  const take = (id: string) => takes.find((each) => each.id === id);
  const first = take(cut.steps[0]?.pieces[0]?.take ?? '');
  if (!first?.size)
    throw new ProblemError({
      code: 'no-picture',
      message: 'There is no picture to deliver.',
      hint: 'Choose a take that was recorded with a picture.',
    });
  const way = chooseWay(cut, destination, takes);
  const rate = outputRate(first.rate, destination);
  const timeline = frameTimeline(cut, rate, timesFor(takes, way));
  const sound = (channels: 1 | 2, tracks: readonly ('voice' | 'app-sound')[], gains: Gains | null) =>
    plannedSound(destination, timeline, takes, channels, tracks, gains, rate);
  const durationUs = framesUs(timeline, rate);
  const plan = { way, asItIs: null, durationUs, rate, crf: way.way === 'encode' ? crf : null };
  if (destination.tracks === 'separate') {
    const composed = (name: 'screen' | 'camera', size: Size, layout: Layout): PlannedFile => ({
      name,
      extension: EXTENSIONS[destination.container],
      picture: encoded(timeline, takes, size, destination, rate, crf, `${scratch}/${name}`, layout),
      sound: null,
      chapters: [],
    });
    const camera = takes.flatMap(({ cameras }) => cameras)[0];
    const has = (track: 'voice' | 'app-sound') =>
      takes.some(({ sounds }) => sounds.some((one) => one.track === track));
    const alone: Gains = { voiceDb: 0, appSoundDb: 0 };
    const files: PlannedFile[] = [composed('screen', first.size, { kind: 'screen' })];
    if (camera) files.push(composed('camera', camera.size, { kind: 'camera', mirror: false, key: null }));
    for (const name of ['voice', 'app-sound'] as const)
      if (has(name)) {
        const channels = name === 'voice' ? 1 : 2;
        files.push({
          name,
          extension: 'wav',
          picture: null,
          sound: sound(channels, [name], alone),
          chapters: [],
        });
      }
    return { ...plan, files };
  }
  const chapters = chaptersOf(cut);
  const asItIs =
    way.way === 'whole' &&
    // The finished file knows nothing of steps.
    chapters.length === 0 &&
    first.plain.path !== null &&
    way.source.what === 'plain' &&
    destination.sound.loudness === null &&
    destination.sound.codec === 'aac' &&
    destination.container === 'mp4' &&
    soundAsPlain(cut, first.plain.gains)
      ? first.plain.path
      : null;
  const picture =
    way.way === 'encode'
      ? encoded(timeline, takes, first.size, destination, rate, crf, `${scratch}/picture`)
      : copied(timeline, way.source, first.size, destination, rate, `${scratch}/picture`);
  const channels = madeChannels(
    destination,
    takes.flatMap(({ sounds }) => sounds),
  );
  const mixed = sound(channels, ['voice', 'app-sound'], null);
  return {
    ...plan,
    asItIs,
    durationUs: way.way === 'whole' ? cutLengthUs(cut) : durationUs,
    files: [
      {
        name: 'video',
        extension: EXTENSIONS[destination.container],
        picture,
        sound: mixed && { ...mixed, copied: copiedSound(cut, destination, timeline, first, rate) },
        chapters,
      },
    ],
  };
}

/** The recorded pictures whose phase a piece is laid on: those that will be seen. */
const timesFor =
  (takes: readonly RenderTake[], way: Way) =>
  (piece: Piece): readonly number[] => {
    const times =
      way.way === 'encode'
        ? takes.find(({ id }) => id === piece.take)?.screens[0]?.timesUs
        : way.source.timesUs;
    const own = (times ?? []).filter((us) => us >= piece.inUs && us < piece.outUs);
    return own.slice(0, 600);
  };

function encoded(
  timeline: readonly PiecedFrames[],
  takes: readonly RenderTake[],
  size: Size,
  destination: Destination,
  rate: FrameRate,
  crf: number,
  path: string,
  layout: Layout | null = null,
): PlannedPicture {
  const shape = outputShape(size, destination);
  const encoder = pictureEncoderArgs(destination, rate, crf, shape.canvas);
  const total = timeline.reduce((sum, { frames }) => sum + frames, 0);
  const every = Math.max(
    1,
    Math.ceil(total / COMPARED),
    Math.round(framesPerSecond(rate) * COMPARED_APART_S),
  );
  const parts = timeline.map((pieced, i) => {
    const { step, piece, originUs, firstFrame, frames } = pieced;
    const take = takes.find(({ id }) => id === piece.take);
    const shown = layout ?? step.layout;
    const during = <T extends PictureInput>(inputs: readonly T[] = []) =>
      inputs.filter(({ startUs, endUs }) => startUs < piece.outUs && endUs > piece.inUs);
    // For a camera alone there is no screen to show while it is away.
    const onlyCamera = layout?.kind === 'camera';
    const screens = onlyCamera ? [] : during(take?.screens);
    const firstScreen = take?.screens[0];
    return encodePart({
      screens: screens.length > 0 || onlyCamera || !firstScreen ? screens : [firstScreen],
      cameras: shown.kind === 'screen' ? [] : during(take?.cameras),
      layout: shown,
      size,
      shape,
      rate,
      originUs,
      frames,
      firstFrame,
      every,
      encoder,
      path: `${path}-${i}`,
    });
  });
  return { size, shape, rate, parts };
}

function copied(
  timeline: readonly PiecedFrames[],
  source: CopySource,
  size: Size,
  destination: Destination,
  rate: FrameRate,
  path: string,
): PlannedPicture {
  const shape = outputShape(size, destination);
  const frameUs = frameTimeUs(1, rate);
  const parts = timeline.flatMap(({ originUs, firstFrame, frames }, n) => {
    const startUs = frameTimeUs(firstFrame, rate);
    // The take's first picture may lie up to half a frame before its time 0.
    const from = originUs - Math.round(frameUs / 2);
    const to = originUs + frameTimeUs(frames, rate) - Math.round(frameUs / 2);
    const last = source.timesUs.at(-1) ?? 0;
    return copyable(source, from, to > last ? Number.POSITIVE_INFINITY : to, frameUs).map(
      (stretch, i): PicturePart => {
        const beginsUs = i === 0 ? originUs : stretch.fromUs;
        const atUs = startUs + beginsUs - originUs;
        if (stretch.kind === 'copy')
          return {
            kind: 'copy',
            path: source.path,
            fromUs: stretch.fromUs - source.shiftUs,
            toUs: stretch.toUs - source.shiftUs,
            atUs: startUs + stretch.fromUs - originUs,
          };
        const endUs = Math.min(stretch.toUs, originUs + frameTimeUs(frames, rate));
        // The pictures before the next copied one; its own time may lie a little off the grid.
        const count = Math.max(1, Math.ceil((endUs - beginsUs) / frameUs - 0.25));
        const input: PictureInput = { path: source.path, size, startUs: 0, endUs: last + frameUs };
        // The file's own times again.
        const inFileUs = beginsUs - source.shiftUs;
        const part = encodePart({
          screens: [input],
          cameras: [],
          layout: { kind: 'screen' },
          size,
          shape,
          rate,
          originUs: inFileUs,
          frames: count,
          firstFrame: 0,
          every: 10,
          encoder: boundaryEncoderArgs(),
          path: `${path}-${n}-${i}`,
        });
        return { ...part, atUs };
      },
    );
  });
  return { size, shape, rate: source.video.constantRate ? rate : null, parts };
}

type EncodeJob = {
  screens: readonly PictureInput[];
  cameras: readonly PictureInput[];
  layout: Layout;
  size: Size;
  shape: OutputShape;
  rate: FrameRate;
  originUs: number;
  frames: number;
  firstFrame: number;
  every: number;
  encoder: string[];
  path: string;
};

function encodePart(job: EncodeJob): PicturePart {
  const { size, shape, rate, frames, firstFrame, every, encoder, path } = job;
  const graph = pictureGraph(job.screens, job.cameras, job.layout, size, rate, job.originUs, frames, path);
  const offset = firstFrame % every;
  const compared: number[] = [];
  for (let n = (every - offset) % every; n < frames; n += every) compared.push(n);
  const chains = [
    ...graph.chains,
    '[picture]split=2[made][before]',
    `[made]${outputFilters(size, shape)}[out]`,
    `[before]select='not(mod(n+${offset},${every}))',format=yuv420p[reference]`,
  ];
  const output = `${path}.mp4`;
  const reference = `${path}.yuv`;
  return {
    kind: 'encode',
    atUs: frameTimeUs(firstFrame, rate),
    frames,
    durationUs: frameTimeUs(frames, rate),
    files: graph.files,
    path: output,
    reference: { path: reference, frames: compared },
    args: [
      '-copyts',
      ...graph.inputs,
      ...['-filter_complex', chains.join(';')],
      ...['-map', '[out]', ...encoder, '-frames:v', String(frames)],
      // A time scale in which every frame of the rate is a whole number.
      ...['-video_track_timescale', String(rate.num * Math.ceil(10_000 / rate.num)), output],
      ...['-map', '[reference]', '-fps_mode', 'passthrough', '-f', 'rawvideo', reference],
    ],
  };
}

/** The encoder's own advice above 64 kb/s: better there, and a third less time. */
const AAC_CODER = ['-aac_coder', 'fast'];

function plannedSound(
  destination: Destination,
  timeline: readonly PiecedFrames[],
  takes: readonly RenderTake[],
  channels: 1 | 2,
  tracks: readonly ('voice' | 'app-sound')[],
  gains: Gains | null,
  rate: FrameRate,
): PlannedSound | null {
  if (!takes.some(({ sounds }) => sounds.some(({ track }) => tracks.includes(track)))) return null;
  const pieces = timeline.map((pieced, i) => {
    const inputs = takes.find(({ id }) => id === pieced.piece.take)?.sounds ?? [];
    return soundPiece(pieced, inputs, tracks, gains, channels, rate, timeline[i + 1]?.continues !== true);
  });
  const { sound } = destination;
  const kbps = madeKbps(destination, channels);
  const rateArgs = ['-ar', String(sound.sampleRate), '-ac', String(channels)];
  const encoder =
    sound.codec === 'pcm'
      ? ['-c:a', 'pcm_s24le', ...rateArgs]
      : sound.codec === 'opus'
        ? ['-c:a', 'libopus', '-b:a', `${kbps}k`, ...rateArgs]
        : ['-c:a', 'aac', ...AAC_CODER, '-b:a', `${kbps}k`, ...rateArgs];
  return { channels, pieces, encoder, loudness: sound.loudness, copied: null };
}

/** In one sentence for people, and the exact terms beside it. */
export function planWords(plan: RenderPlan, destination: Destination): { sentence: string; exact: string } {
  const picture = plan.files[0]?.picture;
  const codec =
    plan.way.way === 'encode'
      ? `${codecName(madeCodec(destination))}, CRF ${plan.crf}, keyframes every ${keyframeEveryS(destination)} s`
      : `${codecName(plan.way.source.video.codec)} as recorded`;
  const size = picture ? `${picture.shape.canvas.width} × ${picture.shape.canvas.height}` : '';
  const rate = picture?.rate
    ? `${+(picture.rate.num / picture.rate.den).toFixed(2)} fps`
    : 'frames as recorded';
  const { copied: isCopied = null, channels = 0 } = plan.files[0]?.sound ?? {};
  const copied = isCopied ? ', copied' : '';
  const loud = destination.sound.loudness ? `, ${levelText(destination.sound.loudness.lufs)} LUFS` : '';
  return {
    sentence: plan.asItIs ? 'The plain video is this file already: it is taken as it is.' : plan.way.because,
    exact: `${codec}, ${size}, ${rate}; ${destination.sound.codec.toUpperCase()} ${channels === 1 ? 'mono' : 'stereo'}${copied}${loud}`,
  };
}
