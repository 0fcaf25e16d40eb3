import { type FrameRate, framesPerSecond, frameTimeUs } from '../base/rational';
import type { Size } from '../base/sizes';
import { UNCHANGED_LOOKS } from '../cut/looks';
import type { Destination } from '../destination/destination';
import type { Layout } from '../layout/layout-kinds';
import { type OutputShape, outputShape } from './output-shape';
import type { EncodedPart, PicturePart } from './picture-part';
import { keyframeFrames } from './quality';
import { lastPicture, type Opening, type Shot, shotOf } from './shot';
import { inStretches } from './stretches';
import type { CopySource, PictureInput, RenderTake } from './take-sources';
import type { PiecedFrames } from './timeline';
import { copyable, showsAsEncoded } from './way';

export type PlannedPicture = {
  /** Of the composed picture, before scaling. */
  size: Size;
  shape: OutputShape;
  /** Null where copied pictures keep their own uneven times. */
  rate: FrameRate | null;
  parts: PicturePart[];
};

/** Pictures of the whole video that are compared with what came out. */
const COMPARED = 40;
/** Closer together they say the same. */
const COMPARED_APART_S = 0.5;
/** Of the few pictures beside a cut. */
const COMPARED_AT_BOUNDARY = 10;

/** Every so many frames of the video, from its beginning on, whatever part they lie in. */
function comparedFrames(firstFrame: number, frames: number, every: number): EncodedPart['compared'] {
  const compared: number[] = [];
  for (let n = (every - (firstFrame % every)) % every; n < frames; n += every) compared.push(n);
  return { every, frames: compared };
}

/**
 * Makes parts that are composed and encoded of the pieces of a video.
 * @param layout other than the steps' own
 * @param name what the parts' files are called
 * @returns makes that of a piece by its place in the timeline
 */
function composing(
  timeline: readonly PiecedFrames[],
  takes: readonly RenderTake[],
  rate: FrameRate,
  layout: Layout | null,
  name: string,
): (n: number, encoder: EncodedPart['encoder']) => EncodedPart {
  const total = timeline.reduce((sum, { frames }) => sum + frames, 0);
  const apart = Math.round(framesPerSecond(rate) * COMPARED_APART_S);
  const every = Math.max(1, Math.ceil(total / COMPARED), apart);
  const shots = timeline.map((pieced) => shotOf(pieced, takes, rate, layout));
  return (n, encoder) => {
    const pieced = timeline[n] as PiecedFrames;
    const { firstFrame, frames } = pieced;
    return {
      ...{ kind: 'encode', name: `${name}-${n}`, encoder },
      ...{ atUs: frameTimeUs(firstFrame, rate), frames, durationUs: frameTimeUs(frames, rate) },
      ...{ rate, shot: shots[n] as Shot },
      // Separate tracks have no transitions.
      opening: layout ? null : openingOf(pieced, timeline[n - 1], shots[n - 1], rate),
      // A camera in a file of its own shows no text.
      compared: layout?.kind === 'camera' ? { every, frames: [] } : comparedFrames(firstFrame, frames, every),
    };
  };
}

/**
 * All pieces of a video composed and encoded, each as a part of its own, long ones as several.
 * @param size of the composed picture
 * @param name what the parts' files are called
 * @param layout other than the steps' own
 */
export function encodedPicture(
  timeline: readonly PiecedFrames[],
  takes: readonly RenderTake[],
  size: Size,
  destination: Destination,
  rate: FrameRate,
  crf: number,
  name: string,
  layout: Layout | null,
): PlannedPicture {
  const compose = composing(timeline, takes, rate, layout, name);
  const parts = timeline.flatMap((_, n) => inStretches(compose(n, { destination, crf })));
  return { size, shape: outputShape(size, destination), rate, parts };
}

/** How a piece begins: only the first of a step begins otherwise than at once, and the transition ends with it at the latest. */
function openingOf(
  { step, frames }: PiecedFrames,
  before: PiecedFrames | undefined,
  shotBefore: Shot | undefined,
  rate: FrameRate,
): Opening | null {
  if (!step.entry || !before || !shotBefore || before.step === step) return null;
  const wanted = Math.round((step.entry.lengthUs * rate.num) / (rate.den * 1e6));
  return {
    kind: step.entry.kind,
    frames: Math.max(1, Math.min(frames, wanted)),
    from: lastPicture(before, shotBefore),
  };
}

/**
 * A video of which one source is copied wherever it shows it unchanged, but for what lies between a cut and the next keyframe;
 * pieces with effects are composed and encoded, each as a part of its own.
 * @param size of the source's pictures
 */
export function copiedPicture(
  timeline: readonly PiecedFrames[],
  { source, take }: { source: CopySource; take: RenderTake },
  takes: readonly RenderTake[],
  size: Size,
  destination: Destination,
  rate: FrameRate,
  name: string,
): PlannedPicture {
  const compose = composing(timeline, takes, rate, null, name);
  const encoder = { besideCopied: true, keyframeFrames: keyframeFrames(destination, rate) } as const;
  const parts = timeline.flatMap((pieced, n): PicturePart[] =>
    showsAsEncoded(pieced, source, take)
      ? copiedPiece(pieced, source, size, rate, `${name}-${n}`)
      : [compose(n, encoder)],
  );
  return {
    size,
    shape: outputShape(size, destination),
    rate: source.video.constantRate ? rate : null,
    parts,
  };
}

/** A piece that is copied from its first keyframe on. */
function copiedPiece(
  { originUs, firstFrame, frames }: PiecedFrames,
  source: CopySource,
  size: Size,
  rate: FrameRate,
  name: string,
): PicturePart[] {
  const frameUs = frameTimeUs(1, rate);
  const lastUs = source.timesUs.at(-1) ?? 0;
  const input: PictureInput = { path: source.path, size, startUs: 0, endUs: lastUs + frameUs };
  const startUs = frameTimeUs(firstFrame, rate);
  const endUs = originUs + frameTimeUs(frames, rate);
  // The take's first picture may lie up to half a frame before its time 0.
  const from = originUs - Math.round(frameUs / 2);
  const to = endUs - Math.round(frameUs / 2);
  const stretches = copyable(source, from, to > lastUs ? Number.POSITIVE_INFINITY : to, frameUs);
  return stretches.map((stretch, i): PicturePart => {
    const beginsUs = i === 0 ? originUs : stretch.fromUs;
    if (stretch.kind === 'copy')
      return {
        kind: 'copy',
        path: source.path,
        fromUs: stretch.fromUs - source.shiftUs,
        toUs: stretch.toUs - source.shiftUs,
        atUs: startUs + stretch.fromUs - originUs,
      };
    // The pictures before the next copied one; its own time may lie a little off the grid.
    const lengthUs = Math.min(stretch.toUs, endUs) - beginsUs;
    const count = Math.max(1, Math.ceil(lengthUs / frameUs - 0.25));
    return {
      ...{ kind: 'encode', name: `${name}-${i}` },
      atUs: startUs + beginsUs - originUs,
      ...{ frames: count, durationUs: frameTimeUs(count, rate) },
      // The next keyframe is the copied one.
      ...{ rate, encoder: { besideCopied: true, keyframeFrames: count }, opening: null },
      // The file's own times again.
      shot: {
        ...{ screens: [input], cameras: [], layout: { kind: 'screen' }, rate, frames: count, speed: 1 },
        ...{ originUs: beginsUs - source.shiftUs, views: [], covers: [], looks: UNCHANGED_LOOKS },
      },
      compared: comparedFrames(0, count, COMPARED_AT_BOUNDARY),
    };
  });
}
