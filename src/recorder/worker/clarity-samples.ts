import { BlobSource, Input, MATROSKA, VideoSampleSink } from 'mediabunny';
import type { Rect } from '@/core/base/sizes';
import { type Luma, type TextClarity, textClarity, videoClarity } from '@/core/image/clarity';
import { openResampler } from '@/core/image/resample';
import type { Fitted } from '@/core/layout/fit';
import type { SegmentHead } from '@/core/recording/take';
import type { MeasuredClarity } from '@/core/rehearsal/rehearsal';
import { partName } from '../journal';
import { lumaOf } from '../probe/film';

/** A captured frame, to be compared with what was encoded of it. */
type Sample = { tUs: number; source: Luma; crop: Rect; at: Rect };

/** Keeps some frames of a rehearsal as they were captured. */
export type ClaritySamples = {
  /** Copies the frame where its turn has come; the frame stays its owner's. */
  readonly offer: (tUs: number, frame: VideoFrame, fitted: Fitted, kept?: Rect) => void;
  /** How clear the text of these frames is in the files; null where there is no text. */
  readonly measure: (
    folder: FileSystemDirectoryHandle,
    segments: readonly SegmentHead[],
  ) => Promise<MeasuredClarity | null>;
};

const SAMPLES = 4;

/** @param lengthUs of the rehearsal, over which the samples are spread */
export function openClaritySamples(lengthUs: number): ClaritySamples {
  const taken: Promise<Sample | null>[] = [];
  return {
    offer: (tUs, frame, fitted, kept = fitted.crop) => {
      // The middle of each stretch: the first frames are those of the warm-up.
      if (taken.length >= SAMPLES || tUs < ((taken.length + 0.5) * lengthUs) / SAMPLES) return;
      const copied = frame.clone();
      taken.push(
        lumaOf(copied)
          .then((source) => ({ tUs, source, crop: kept, at: fitted.at }))
          .catch(() => null)
          .finally(() => copied.close()),
      );
    },
    measure: async (folder, segments) => {
      const clarities: TextClarity[] = [];
      for (const sample of await Promise.all(taken)) {
        const segment = segments.findLast(
          ({ track, startUs }) => track === 'screen' && startUs <= (sample?.tUs ?? -1),
        );
        const shown = sample && segment ? await decoded(folder, segment, sample.tUs) : null;
        if (sample && shown) clarities.push(compare(sample, shown));
      }
      const all = videoClarity(clarities.filter(({ windows }) => windows > 0));
      return all && { mean: all.mean, worst: all.worst, frames: all.pictures };
    },
  };
}

/** A frame of a segment, as a player shows it at that time. */
async function decoded(
  folder: FileSystemDirectoryHandle,
  { id }: SegmentHead,
  tUs: number,
): Promise<Luma | null> {
  const file = await (await folder.getFileHandle(partName(id, 'media'))).getFile();
  const input = new Input({ formats: [MATROSKA], source: new BlobSource(file) });
  try {
    const track = await input.getPrimaryVideoTrack();
    // Matroska counts in milliseconds, rounded.
    const sample = track && (await new VideoSampleSink(track).getSample((tUs + 1000) / 1e6));
    if (!sample) return null;
    const frame = sample.toVideoFrame();
    sample.close();
    const luma = await lumaOf(frame);
    frame.close();
    return luma;
  } finally {
    input.dispose();
  }
}

/** At the size of the source, so that what scaling has cost counts as well. */
function compare({ source, crop, at }: Sample, shown: Luma): TextClarity {
  return textClarity(cut(source, crop), scaled(cut(shown, at), crop));
}

function cut({ width, height, data }: Luma, rect: Rect): Luma {
  if (rect.width === width && rect.height === height) return { width, height, data };
  const part = new Uint8Array(rect.width * rect.height);
  for (let y = 0; y < rect.height; y++) {
    const from = (y + rect.y) * width + rect.x;
    part.set(data.subarray(from, from + rect.width), y * rect.width);
  }
  return { width: rect.width, height: rect.height, data: part };
}

function scaled(luma: Luma, { width, height }: Rect): Luma {
  if (luma.width === width && luma.height === height) return luma;
  const data = new Uint8Array(width * height);
  openResampler(
    luma,
    { width, height },
    'bicubic',
  )({ data: luma.data, offset: 0, stride: luma.width }, { data, offset: 0, stride: width });
  return { width, height, data };
}
