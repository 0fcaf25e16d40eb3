import { open, rm } from 'node:fs/promises';
import { filmPath, referencePath } from '@/core/commands/encode-part';
import { comparingFilters } from '@/core/commands/output-filters';
import type { EncodedPart, PlannedPicture } from '@/core/deliver/planned-picture';
import {
  colourWindows,
  type TextClarity,
  textClarity,
  type VideoClarity,
  videoClarity,
} from '@/core/image/clarity';
import { decode } from '../media/ffmpeg';
import { eachOf } from './together';

/** How clear text still are, and how much of their colour is. Null where there was nothing to judge. */
export type Compared = { clarity: VideoClarity | null; colour: VideoClarity | null };

type Judged = { text: TextClarity; colour: TextClarity[] };

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
  const judged: Judged[] = [];
  // While the pictures of one are judged here, those of another are decoded.
  await eachOf(all, 2, signal, async (part, own) => {
    judged.push(...(await comparePart(part, picture, scratch, own)));
  });
  return {
    clarity: videoClarity(judged.map(({ text }) => text)),
    colour: videoClarity(judged.flatMap(({ colour }) => colour)),
  };
}

async function comparePart(
  part: EncodedPart,
  { size, shape }: PlannedPicture,
  scratch: string,
  signal: AbortSignal,
): Promise<Judged[]> {
  const area = size.width * size.height;
  const bytes = area * 1.5;
  const reference = referencePath(part, scratch);
  const chosen = part.compared.frames.map((frame) => `eq(n,${frame})`).join('+');
  const results: Judged[] = [];
  const file = await open(reference, 'r');
  const before = new Uint8Array(bytes);
  const shown = new Uint8Array(bytes);
  const half = { width: size.width / 2, height: size.height / 2 };
  const judge = (): Judged => {
    const colour = [area, area * 1.25].map((at) => {
      const plane = { ...half, data: before.subarray(at, at + area / 4) };
      return textClarity(plane, { ...half, data: shown.subarray(at, at + area / 4) }, colourWindows(plane));
    });
    const luma = { ...size, data: before.subarray(0, area) };
    return { text: textClarity(luma, { ...size, data: shown.subarray(0, area) }), colour };
  };
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
        const { bytesRead } = await file.read(before, 0, bytes, results.length * bytes);
        if (bytesRead === bytes) results.push(judge());
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
    await file.close();
  }
  await rm(reference, { force: true });
  return results;
}
