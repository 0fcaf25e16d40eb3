import { open, rm } from 'node:fs/promises';
import type { Size } from '@/core/base/sizes';
import { filmPath, referencePath, scaledReferencePath } from '@/core/commands/encode-part';
import { comparingFilters } from '@/core/commands/output-filters';
import { isScaled } from '@/core/deliver/output-shape';
import type { EncodedPart, PlannedPicture } from '@/core/deliver/planned-picture';
import {
  colourWindows,
  isClear,
  type TextClarity,
  textClarity,
  type VideoClarity,
  videoClarity,
} from '@/core/image/clarity';
import { decode } from '../media/ffmpeg';
import { eachOf } from './together';

/** How clear text still is, and how much of its colour. Null where there was nothing to judge. */
type Clarities = { clarity: VideoClarity | null; colour: VideoClarity | null };

export type Compared = Clarities & {
  /** Whether the encoder left text as clear as scaling did: encoding more finely brings back nothing that scaling took. */
  isEncodedClearly: boolean;
};

type Judged = { text: TextClarity; colour: TextClarity[] };

const claritiesOf = (judged: readonly Judged[]): Clarities => ({
  clarity: videoClarity(judged.map(({ text }) => text)),
  colour: videoClarity(judged.flatMap(({ colour }) => colour)),
});

/**
 * Text clarity of the encoded stretches of a picture: some of their frames against the composed pictures that went into the encoder.
 * A stretch lies in the finished file bit for bit, so it is read where it was made; copied ones are what they were. Colour is compared
 * as 4:2:0 carries it: what 4:2:0 itself takes is gone before.
 */
export async function compareWithReference(
  picture: PlannedPicture,
  scratch: string,
  signal: AbortSignal,
): Promise<Compared> {
  const parts = picture.parts.filter((part) => part.kind === 'encode');
  const all = parts.filter(({ compared }) => compared.frames.length > 0);
  const [composed, scaled]: [Judged[], Judged[]] = [[], []];
  // While the pictures of one are judged here, those of another are decoded.
  await eachOf(all, 2, signal, async (part, own) => {
    for (const judged of await comparePart(part, picture, scratch, own)) {
      composed.push(judged.composed);
      scaled.push(judged.scaled);
    }
  });
  const encoded = claritiesOf(scaled);
  return { ...claritiesOf(composed), isEncodedClearly: isClear(encoded.clarity, encoded.colour) };
}

/** A picture beside what it was made of, both in 4:2:0. */
function judge(before: Uint8Array, shown: Uint8Array, size: Size): Judged {
  const area = size.width * size.height;
  const half = { width: size.width / 2, height: size.height / 2 };
  const colour = [area, area * 1.25].map((at) => {
    const plane = { ...half, data: before.subarray(at, at + area / 4) };
    return textClarity(plane, { ...half, data: shown.subarray(at, at + area / 4) }, colourWindows(plane));
  });
  const luma = { ...size, data: before.subarray(0, area) };
  return { text: textClarity(luma, { ...size, data: shown.subarray(0, area) }), colour };
}

/** @returns of each compared picture how it looks beside the composed one, and beside that one scaled; the same where nothing is scaled */
async function comparePart(
  part: EncodedPart,
  { size, shape }: PlannedPicture,
  scratch: string,
  signal: AbortSignal,
): Promise<{ composed: Judged; scaled: Judged }[]> {
  const bytes = size.width * size.height * 1.5;
  const references = [
    referencePath(part, scratch),
    ...(isScaled(size, shape.scaled) ? [scaledReferencePath(part, scratch)] : []),
  ];
  const chosen = part.compared.frames.map((frame) => `eq(n,${frame})`).join('+');
  const results: { composed: Judged; scaled: Judged }[] = [];
  const files = await Promise.all(references.map((path) => open(path, 'r')));
  const before = new Uint8Array(bytes);
  const shown = new Uint8Array(bytes);
  try {
    let filled = 0;
    // Judged while the next ones are decoded: the decoder has the other core.
    const take = async (data: Buffer) => {
      for (let at = 0; at < data.length; ) {
        const more = data.subarray(at, at + bytes - filled);
        shown.set(more, filled);
        filled += more.length;
        at += more.length;
        if (filled < bytes) return;
        filled = 0;
        const judged: Judged[] = [];
        for (const file of files) {
          const { bytesRead } = await file.read(before, 0, bytes, results.length * bytes);
          if (bytesRead === bytes) judged.push(judge(before, shown, size));
        }
        const [composed, scaled = composed] = judged;
        if (composed && scaled) results.push({ composed, scaled });
      }
    };
    await decode(
      [
        ...[
          '-i',
          filmPath(part, scratch),
          '-an',
          '-vf',
          `select='${chosen}',${comparingFilters(size, shape)}`,
        ],
        ...['-fps_mode', 'passthrough', '-f', 'rawvideo'],
      ],
      take,
      signal,
    );
  } finally {
    for (const file of files) await file.close();
  }
  for (const path of references) await rm(path, { force: true });
  return results;
}
