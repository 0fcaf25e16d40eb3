import { type FrameRate, frameTimeUs } from '../base/rational';
import { sameValue } from '../base/same-value';
import { type Cut, cutLengthUs, type Gains, isUnchangedPicture, type Placed, placedPieces } from '../cut/cut';
import { FLAT } from '../cut/envelope';
import type { Destination } from '../destination/destination';
import { pictureRules } from '../destination/rules';
import type { Layout } from '../layout/layout-kinds';
import type { CopySource, RenderTake } from './take-sources';
import type { PiecedFrames } from './timeline';

/** How the pictures of a parcel come about. `because` is a sentence for people. */
export type Way =
  | { way: 'whole'; source: CopySource; take: RenderTake; because: string }
  | {
      way: 'smart';
      source: CopySource;
      take: RenderTake;
      /** How much of the video shows the source unchanged, 0…1; the rest is composed. */
      copied: number;
      because: string;
    }
  | { way: 'encode'; because: string };

const encode = (because: string): Way => ({ way: 'encode', because });

/** Less that can be copied is not worth joining two encoders' pictures. */
const LEAST_COPIED = 0.3;

/** Whether a piece shows a source's pictures as they were encoded. */
export const showsAsEncoded = (
  { step, piece }: Pick<Placed, 'step' | 'piece'>,
  source: CopySource,
  take: RenderTake,
): boolean =>
  piece.take === take.id &&
  isUnchangedPicture(step) &&
  source.what === wanted(step.layout, take.plain.layout);

/** Which source shows the most of a cut unchanged, and how much: 0…1. */
function mostCopied(cut: Cut, take: RenderTake): { source: CopySource | null; share: number } {
  const pieces = placedPieces(cut);
  const share = (source: CopySource) =>
    pieces
      .filter((placed) => showsAsEncoded(placed, source, take))
      .reduce((sum, { startUs, endUs }) => sum + endUs - startUs, 0) / cutLengthUs(cut);
  return take.copies
    .map((source) => ({ source, share: share(source) }))
    .reduce<{ source: CopySource | null; share: number }>(
      (best, one) => (one.share > best.share ? one : best),
      { source: null, share: 0 },
    );
}

/** Why nothing of a cut can be copied. */
function whyEncoded(cut: Cut, take: RenderTake): string {
  const [first] = cut.steps;
  if (placedPieces(cut).some(({ piece }) => piece.take !== take.id))
    return 'Re-encoded: the steps come from more than one take.';
  if (cut.steps.some((step) => !sameValue(step.layout, first?.layout)))
    return 'Re-encoded: the steps have different layouts.';
  return cut.steps.every(isUnchangedPicture)
    ? 'Re-encoded: this layout has not been encoded yet.'
    : 'Re-encoded: a step has a zoom, a cover, a held frame, other colours, another speed or a transition.';
}

/**
 * Whether recorded pictures can be copied for a destination, so that nothing is encoded that need not be.
 * Copied are the plain video's pictures where steps are laid out as it is, or the screen's where it is seen alone.
 */
export function chooseWay(cut: Cut, destination: Destination, takes: readonly RenderTake[]): Way {
  const pieces = placedPieces(cut);
  const [first] = pieces;
  const take = takes.find(({ id }) => id === first?.piece.take);
  if (!first || !take) return encode('The take is not there.');
  if (destination.aim === 'compact')
    return encode('Re-encoded slowly: this destination wants the smallest file with clear text.');
  if (destination.tracks === 'separate')
    return encode('Re-encoded at a constant frame rate, each track separately.');
  const { source, share } = mostCopied(cut, take);
  if (!source || share < LEAST_COPIED) return encode(whyEncoded(cut, take));
  const broken = pictureRules(destination, source.video).filter(({ met }) => !met);
  if (broken[0]) {
    const { name, measured, allowed } = broken[0];
    return encode(
      `Re-encoded: the recording has ${name.toLowerCase()} ${measured}; this destination needs ${allowed}.`,
    );
  }
  const isAll = share === 1;
  const whole =
    isAll && pieces.length === 1 && first.piece.inUs === 0 && first.piece.outUs >= take.durationUs - 1;
  if (whole)
    return { way: 'whole', source, take, because: 'The picture is copied as recorded, to the last bit.' };
  if (source.video.codec !== 'h264')
    return encode('Re-encoded: only H.264 can be joined without re-encoding.');
  return {
    way: 'smart',
    source,
    take,
    copied: share,
    because: isAll
      ? 'Only the frames beside each cut are re-encoded; all others are copied bit by bit.'
      : 'Only changed steps and the frames beside each cut are re-encoded; all others are copied bit by bit.',
  };
}

const wanted = (layout: Layout, plain: Layout): CopySource['what'] | null =>
  sameValue(layout, plain) ? 'plain' : layout.kind === 'screen' ? 'screen' : null;

/** Whether the mix of the plain video is the one that the cut asks for, and as fast. */
export const soundAsPlain = (cut: Cut, gains: Gains): boolean =>
  cut.steps.every(
    (step) =>
      sameValue(step.gains, gains) &&
      sameValue(step.envelopes, FLAT) &&
      step.speed === 1 &&
      step.pieces.every(({ heldUs }) => heldUs === undefined),
  );

/** A stretch of the plain video's sound, on the file's own times. */
export type CopiedSound = { path: string; fromUs: number; toUs: number };

/**
 * The sound that is encoded already as the cut asks for it; null when it must be made. Each AAC frame overlaps the next
 * (ISO/IEC 14496-3, 4.6.11), so only one piece can be copied without being heard to have been joined: it fades in over its first
 * frame, a fiftieth of a second.
 */
export function copiedSound(
  cut: Cut,
  { sound, tracks }: Destination,
  [only, ...more]: readonly PiecedFrames[],
  take: RenderTake,
  rate: FrameRate,
): CopiedSound | null {
  const plain = take.copies.find(({ what }) => what === 'plain');
  if (!plain || !only || more.length > 0 || tracks === 'separate' || !soundAsPlain(cut, take.plain.gains))
    return null;
  if (sound.loudness !== null || sound.codec !== 'aac' || sound.channels !== 2 || sound.sampleRate !== 48_000)
    return null;
  const fromUs = only.originUs - plain.shiftUs;
  return { path: plain.path, fromUs, toUs: fromUs + frameTimeUs(only.frames, rate) };
}

/** A stretch of a source, on its own times. */
export type Stretch =
  | { kind: 'encode'; fromUs: number; toUs: number }
  | { kind: 'copy'; fromUs: number; toUs: number };

/**
 * Divides a stretch of a source into what can be copied and what must be encoded: from the first keyframe in it on all can be copied,
 * up to its end where pictures are stored as they are seen, else up to its last keyframe.
 * @param fromUs take time; pictures from here on, before `toUs`. Half a frame before the first one that is wanted
 * @param frameUs the time a picture stands: what is shorter than that holds no picture of its own
 */
export function copyable(source: CopySource, fromUs: number, toUs: number, frameUs: number): Stretch[] {
  const key = source.keyframesUs.find((us) => us >= fromUs);
  if (key === undefined || key >= toUs) return [{ kind: 'encode', fromUs, toUs }];
  const hasAfter = source.timesUs.some((us) => us >= toUs);
  const lastKey = source.keyframesUs.findLast((us) => us < toUs) ?? key;
  const copyTo = source.reordered && hasAfter ? lastKey : toUs;
  const stretches: Stretch[] = [];
  if (key - fromUs >= frameUs) stretches.push({ kind: 'encode', fromUs, toUs: key });
  if (copyTo > key) stretches.push({ kind: 'copy', fromUs: key, toUs: copyTo });
  if (toUs > copyTo) stretches.push({ kind: 'encode', fromUs: copyTo, toUs });
  return stretches;
}
