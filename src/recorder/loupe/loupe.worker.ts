/** What scaling does to the picture that is captured now: before and after, by the browser and by each filter. */
import { z } from 'zod';
import { percentile } from '@/core/base/percentile';
import type { Size } from '@/core/base/sizes';
import { textClarity, textWindows } from '@/core/image/clarity';
import { openResampler, ScaleFilter } from '@/core/image/resample';
import { fitted } from '@/core/layout/fit';
import { RigDocument } from '@/core/rig/rig';
import { decodeFilm, encodeFilm, lumaOf } from '../probe/film';
import { openScaling } from '../worker/scaling';
import type { Looked, Scaled } from './loupe';

const Order = z.object({
  picture: z.instanceof(VideoFrame),
  settings: RigDocument.shape.picture.pick({ aim: true, box: true, fit: true }),
});

const RUNS = 3;
const COLOURS = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false } as const;

/** An encoder that takes nothing away that scaling has left: the finest step of a quantizer, or more bits than it can use. */
async function sparing(
  size: Size,
): Promise<{ config: VideoEncoderConfig; options: VideoEncoderEncodeOptions }> {
  const vp9 = { codec: 'vp09.00.51.08', ...size, framerate: 30, bitrateMode: 'quantizer' } as const;
  const { supported } = await VideoEncoder.isConfigSupported(vp9);
  if (supported) return { config: vp9, options: { vp9: { quantizer: 0 } } };
  const h264 = { codec: 'avc1.640034', ...size, framerate: 30, bitrate: 100_000_000 };
  return { config: { ...h264, avc: { format: 'avc' } }, options: {} };
}

const bitmapOf = (picture: VideoFrame) => {
  const canvas = new OffscreenCanvas(picture.displayWidth, picture.displayHeight);
  canvas.getContext('2d')?.drawImage(picture, 0, 0);
  return canvas.transferToImageBitmap();
};

type Luma = Awaited<ReturnType<typeof lumaOf>>;

/** The picture scaled back to its original size, as a viewer's player does. */
function enlarged(luma: Luma, to: Size): Luma {
  const data = new Uint8Array(to.width * to.height);
  const resample = openResampler(luma, to, 'bicubic');
  resample({ data: luma.data, offset: 0, stride: luma.width }, { data, offset: 0, stride: to.width });
  return { ...to, data };
}

async function look({ picture, settings }: z.infer<typeof Order>): Promise<Looked> {
  const source = { width: picture.displayWidth, height: picture.displayHeight };
  // Bars are no part of what is looked at.
  const { crop, at, scale } = fitted(
    { ...settings, fit: settings.fit === 'letterbox' ? 'within' : settings.fit },
    source,
  );
  const size = { width: at.width, height: at.height };
  const kept = new VideoFrame(picture, {
    visibleRect: {
      ...crop,
      x: crop.x + (picture.visibleRect?.x ?? 0),
      y: crop.y + (picture.visibleRect?.y ?? 0),
    },
    displayWidth: crop.width,
    displayHeight: crop.height,
  });
  const before = await lumaOf(kept);
  const windows = textWindows(before);
  const judged = async (name: Scaled['name'], after: VideoFrame, ms: number | null): Promise<Scaled> => {
    const { mean } = textClarity(before, enlarged(await lumaOf(after), before), windows);
    return { name, ms, clarity: windows.length > 0 ? mean : null, picture: bitmapOf(after) };
  };
  const scaled: Scaled[] = [];
  const { config, options } = await sparing(size);
  const film = await encodeFilm(config, options, [new VideoFrame(kept, { timestamp: 0 })]);
  await decodeFilm(film, new Set([0]), async (after) => {
    scaled.push(await judged('browser', after, null));
  });
  const own = { crop: { ...crop, x: 0, y: 0 }, size, at: { ...size, x: 0, y: 0 }, scale };
  const data = new Uint8Array(kept.allocationSize());
  const layout = await kept.copyTo(data);
  const still = new VideoFrame(data, {
    format: kept.format ?? 'I420',
    codedWidth: crop.width,
    codedHeight: crop.height,
    timestamp: 0,
    layout,
    colorSpace: COLOURS,
  });
  for (const filter of ScaleFilter.options) {
    const run = openScaling(own, filter);
    const times: number[] = [];
    let after: VideoFrame | null = null;
    for (let n = 0; n <= RUNS; n++) {
      after?.close();
      const began = performance.now();
      after = await run(still, 0, { x: 0, y: 0, width: crop.width, height: crop.height });
      // The first one warms up.
      if (n > 0) times.push(performance.now() - began);
    }
    if (after) scaled.push(await judged(filter, after, percentile(times, 0.5)));
    after?.close();
  }
  const original = bitmapOf(still);
  for (const frame of [kept, still, picture]) frame.close();
  return { original, scaled, scale, text: middleOfText(windows, before) };
}

/** Where most text is: the middle of the window in the middle of all, in reading order. */
function middleOfText(windows: Int32Array, { width, height }: Size): { x: number; y: number } {
  const middle = windows[Math.floor(windows.length / 2)];
  if (middle === undefined) return { x: width / 2, y: height / 2 };
  return { x: middle % width, y: Math.floor(middle / width) };
}

self.onmessage = async ({ data }: MessageEvent<unknown>) => {
  try {
    const looked = await look(Order.parse(data));
    postMessage(looked, { transfer: [looked.original, ...looked.scaled.map(({ picture }) => picture)] });
  } catch (error) {
    postMessage({ error: error instanceof Error ? error.message : String(error) });
  }
};
