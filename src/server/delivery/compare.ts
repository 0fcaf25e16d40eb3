import { type FileHandle, open, rm } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import type { Size } from '@/core/base/sizes';
import { referencePath, scaledReferencePath } from '@/core/commands/encode-part';
import { comparingFilters } from '@/core/commands/output-filters';
import { isScaled } from '@/core/deliver/output-shape';
import type { EncodedPart } from '@/core/deliver/picture-part';
import type { PlannedPicture } from '@/core/deliver/planned-picture';
import {
  colourWindows,
  isClear,
  type TextClarity,
  textClarity,
  type VideoClarity,
  videoClarity,
} from '@/core/image/clarity';
import { decode } from '../media/ffmpeg';

/** How clear text still is, and how much of its colour. Null where there was nothing to judge. */
type Clarities = { clarity: VideoClarity | null; colour: VideoClarity | null };

export type Compared = Clarities & {
  /** Whether the encoder left text as clear as scaling did: encoding more finely brings back nothing that scaling took. */
  isEncodedClearly: boolean;
};

type Judged = { text: TextClarity; colour: TextClarity[] };

/** A picture beside the composed one, and beside that one scaled; the same where nothing is scaled. */
export type JudgedPicture = { composed: Judged; scaled: Judged };

const claritiesOf = (judged: readonly Judged[]): Clarities => ({
  clarity: videoClarity(judged.map(({ text }) => text)),
  colour: videoClarity(judged.flatMap(({ colour }) => colour)),
});

/** How clear an encoded picture is, of all that was judged in its parts; copied ones are what they were. */
export function comparedOf(judged: readonly JudgedPicture[]): Compared {
  const encoded = claritiesOf(judged.map(({ scaled }) => scaled));
  return {
    ...claritiesOf(judged.map(({ composed }) => composed)),
    isEncodedClearly: isClear(encoded.clarity, encoded.colour),
  };
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

/** Looks at some pictures of a part. A part lies in the finished file bit for bit, so it is looked at where it is made. */
export type Judge = {
  /** Judges them while the part is encoded. @param packets of the part, as they come from its encoder */
  readonly look: (packets: Readable, signal: AbortSignal) => Promise<void>;
  /** Judges what is left, when all of the part is encoded. */
  readonly end: () => Promise<JudgedPicture[]>;
  /** Removes what was kept for comparing. */
  readonly close: () => Promise<void>;
};

/** Pictures beside those that went into the encoder. Colour is compared as 4:2:0 carries it: what 4:2:0 itself takes is gone before. */
export function openJudge(part: EncodedPart, { size, shape }: PlannedPicture, scratch: string): Judge {
  const chosen = part.compared.frames.map((frame) => `eq(n,${frame})`).join('+');
  const filters = `select='${chosen}',${comparingFilters(size, shape)}`;
  // Every packet tells of itself: nothing needs to be looked into before the first is decoded. One thread decodes faster than any encoder encodes.
  const input = ['-threads', '1', '-probesize', '32', '-analyzeduration', '0', '-f', 'nut', '-i', 'pipe:0'];
  const references = openReferences(part, { size, shape }, scratch);
  const judged: JudgedPicture[] = [];
  /** Those whose references were not whole in their files yet. */
  const late: { n: number; shown: Uint8Array }[] = [];
  let count = 0;
  const take = async (shown: Uint8Array) => {
    const n = count++;
    const one = await references.judge(n, shown);
    if (one) judged.push(one);
    else late.push({ n, shown: shown.slice() });
  };
  return {
    look: (packets, signal) =>
      decode(
        [...input, '-an', '-vf', filters, '-fps_mode', 'passthrough', '-f', 'rawvideo'],
        inPictures(bytesOf(size), take),
        signal,
        packets,
      ),
    end: async () => {
      for (const { n, shown } of late) {
        const one = await references.judge(n, shown);
        if (one) judged.push(one);
      }
      return judged;
    },
    close: references.remove,
  };
}

/** Of a picture in 4:2:0. */
const bytesOf = ({ width, height }: Size) => width * height * 1.5;

/** Puts what comes together to whole pictures. @param take reads the picture before its promise settles; the next one takes its place */
function inPictures(bytes: number, take: (picture: Uint8Array) => Promise<void>) {
  const picture = new Uint8Array(bytes);
  let filled = 0;
  return async (data: Buffer): Promise<void> => {
    for (let at = 0; at < data.length; ) {
      const more = data.subarray(at, at + bytes - filled);
      picture.set(more, filled);
      filled += more.length;
      at += more.length;
      if (filled < bytes) return;
      filled = 0;
      await take(picture);
    }
  };
}

/** The pictures of a part as they were composed and, where they are scaled, as scaling left them. */
function openReferences(
  part: EncodedPart,
  { size, shape }: Pick<PlannedPicture, 'size' | 'shape'>,
  scratch: string,
) {
  const paths = [
    referencePath(part, scratch),
    ...(isScaled(size, shape.scaled) ? [scaledReferencePath(part, scratch)] : []),
  ];
  const bytes = bytesOf(size);
  const before = new Uint8Array(bytes);
  let files: FileHandle[] = [];
  return {
    /** @returns null while one of them is not there yet */
    judge: async (n: number, shown: Uint8Array): Promise<JudgedPicture | null> => {
      if (files.length === 0) files = await Promise.all(paths.map((path) => open(path, 'r')));
      const judged: Judged[] = [];
      for (const file of files) {
        const { bytesRead } = await file.read(before, 0, bytes, n * bytes);
        if (bytesRead < bytes) return null;
        judged.push(judge(before, shown, size));
      }
      const [composed, scaled = composed] = judged;
      return composed && scaled ? { composed, scaled } : null;
    },
    remove: async () => {
      for (const file of files) await file.close();
      for (const path of paths) await rm(path, { force: true });
    },
  };
}
