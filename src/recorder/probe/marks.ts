import { framesPerSecond } from '@/core/base/rational';
import type { BitrateTrial } from '@/core/encoding/bitrate-marks';
import { textClarity, textWindows } from '@/core/image/clarity';
import { textHeightPx } from '@/core/image/text-height';
import type { Fitted } from '@/core/layout/fit';
import type { VideoSettings } from '../messages';
import { chooseVideo } from '../worker/video-config';
import { decodeFilm, type Encoded, encodeFilm, lumaOf } from './film';
import type { Crop } from './messages';

/** Looked at for so long at least; longer while hardly anything changes, for what moves costs the most. */
const LOOK_MS = 1500;
const LONGEST_LOOK_MS = 5000;
const ENOUGH_PICTURES = 12;
const MOST_PICTURES = 24;
/** How much of the automatic ceiling is tried. The last bitrate is high enough to represent the source. */
const SHARES = [0.02, 0.06, 0.16, 0.4, 1];
const REFERENCE = 8;
const CROP = { width: 232, height: 96 };

type Held = { data: Uint8Array; layout: PlaneLayout[]; init: VideoFrameBufferInit };

/**
 * Takes pictures from a port as they come, into memory of its own: a capture whose pictures are kept stalls.
 * @returns the pictures, and for how long they were looked at
 */
async function collect(port: MessagePort, rate: number): Promise<{ film: Held[]; lookMs: number }> {
  const held: Held[] = [];
  const opened = performance.now();
  await new Promise<void>((resolve) => {
    const end = setTimeout(resolve, LONGEST_LOOK_MS);
    const least = setTimeout(() => {
      if (held.length >= ENOUGH_PICTURES) done();
    }, LOOK_MS);
    const done = () => {
      clearTimeout(end);
      clearTimeout(least);
      resolve();
    };
    port.onmessage = async ({ data: picture }: MessageEvent<VideoFrame | 'end'>) => {
      if (picture === 'end') return;
      const began = performance.now();
      const data = new Uint8Array(picture.allocationSize());
      const { codedWidth, codedHeight, format } = picture;
      const rect = picture.visibleRect ?? { width: codedWidth, height: codedHeight };
      const layout = await picture.copyTo(data);
      picture.close();
      if (format)
        held.push({
          data,
          layout,
          init: {
            format,
            codedWidth: rect.width,
            codedHeight: rect.height,
            timestamp: Math.round((began - opened) * 1000),
            colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
          },
        });
      const enough = performance.now() - opened > LOOK_MS && held.length >= ENOUGH_PICTURES;
      if (enough || held.length >= MOST_PICTURES) done();
      else setTimeout(() => port.postMessage('next'), Math.max(0, 1000 / rate - (performance.now() - began)));
    };
    port.postMessage('next');
  });
  port.postMessage('end');
  return { film: [...held], lookMs: performance.now() - opened };
}

/** Bars say nothing about a bitrate: they are left out. */
function* framesOf(film: readonly Held[], { crop }: Fitted): Generator<VideoFrame> {
  for (const { data, layout, init } of film) {
    const whole = new VideoFrame(data, { ...init, layout });
    yield new VideoFrame(whole, { visibleRect: crop, displayWidth: crop.width, displayHeight: crop.height });
    whole.close();
  }
}

/**
 * What bitrates do to what is being captured now: a look at it is encoded at several, decoded, and its text compared with the same
 * pictures at a bitrate that spares nothing. Scaling is no part of it: both are encoded at one size.
 * @throws Error when nothing arrived
 */
export async function measureMarks(
  port: MessagePort,
  settings: VideoSettings,
): Promise<{
  trials: BitrateTrial[];
  pictures: number;
  textPx: number | null;
  crops: { askedKbps: number | null; crop: Crop }[];
}> {
  const rate = framesPerSecond(settings.frameRate);
  const { film, lookMs } = await collect(port, Math.min(rate, 30));
  const [first] = film;
  if (!first) throw new Error('Nothing arrived to be measured.');
  const source = { width: first.init.codedWidth, height: first.init.codedHeight };
  const unbarred: VideoSettings = {
    ...settings,
    fit: settings.fit === 'letterbox' ? 'within' : settings.fit,
  };
  const choose = (bitrateKbps: number) =>
    chooseVideo('screen', source, { ...unbarred, rateControl: 'average', level: null, bitrateKbps });
  const { bitrateKbps: ceiling } = await chooseVideo('screen', source, {
    ...unbarred,
    level: null,
    bitrateKbps: null,
  });
  const encodeAt = async (kbps: number): Promise<Encoded> => {
    const { encoder, options, fitted } = await choose(kbps);
    return encodeFilm(encoder, options, framesOf(film, fitted));
  };
  const judged = new Set([Math.floor(film.length / 3), Math.floor((2 * film.length) / 3), film.length - 1]);
  const references = new Map<number, { luma: Awaited<ReturnType<typeof lumaOf>>; windows: Int32Array }>();
  const crops: { askedKbps: number | null; crop: Crop }[] = [];
  let place = { x: 0, y: 0 };
  let textPx: number | null = null;
  await decodeFilm(await encodeAt(ceiling * REFERENCE), judged, async (picture, n) => {
    const luma = await lumaOf(picture);
    const windows = textWindows(luma);
    references.set(n, { luma, windows });
    if (n !== film.length - 1) return;
    place = densest(windows, luma.width, luma.height);
    textPx = textHeightPx(luma);
    crops.push({ askedKbps: null, crop: cropOf(picture, place) });
  });
  const trials: BitrateTrial[] = [];
  for (const share of SHARES) {
    const askedKbps = Math.max(100, Math.round(ceiling * share));
    const done = await encodeAt(askedKbps);
    let [sum, count] = [0, 0];
    await decodeFilm(done, judged, async (picture, n) => {
      const reference = references.get(n);
      if (!reference) return;
      const { mean, windows } = textClarity(reference.luma, await lumaOf(picture), reference.windows);
      if (windows > 0) [sum, count] = [sum + mean, count + 1];
      if (n === film.length - 1) crops.push({ askedKbps, crop: cropOf(picture, place) });
    });
    trials.push({
      askedKbps,
      gotKbps: lastingKbps(done, settings, lookMs),
      clarity: count > 0 ? sum / count : 1,
    });
  }
  return { trials, pictures: film.length, textPx, crops };
}

/** What a film comes to when it goes on: it began with a keyframe, and gets one again only every few seconds. */
function lastingKbps(
  { bytes, chunks }: Encoded,
  { keyframeEvery, frameRate }: VideoSettings,
  lookMs: number,
): number {
  const [first] = chunks;
  const { unit, value } = keyframeEvery;
  const groupS = unit === 'seconds' ? value : value / framesPerSecond(frameRate);
  const key = first?.byteLength ?? 0;
  return ((((bytes - key) * 1000) / lookMs + key / groupS) * 8) / 1000;
}

/** Where a crop shows most text. */
function densest(windows: Int32Array, width: number, height: number): { x: number; y: number } {
  const cells = new Map<string, number>();
  for (const at of windows) {
    const [x, y] = [at % width, Math.floor(at / width)];
    const key = `${Math.floor(x / (CROP.width / 2))} ${Math.floor(y / (CROP.height / 2))}`;
    cells.set(key, (cells.get(key) ?? 0) + 1);
  }
  const [best] = [...cells].sort((a, b) => b[1] - a[1]);
  const [cx = 0, cy = 0] = (best?.[0] ?? '0 0').split(' ').map(Number);
  return {
    x: Math.max(0, Math.min((cx * CROP.width) / 2 - CROP.width / 4, width - CROP.width)),
    y: Math.max(0, Math.min((cy * CROP.height) / 2 - CROP.height / 4, height - CROP.height)),
  };
}

function cropOf(picture: VideoFrame, { x, y }: { x: number; y: number }): Crop {
  const canvas = new OffscreenCanvas(CROP.width, CROP.height);
  const pen = canvas.getContext('2d');
  if (!pen) throw new Error('This browser draws no canvas in a worker.');
  pen.drawImage(picture, x, y, CROP.width, CROP.height, 0, 0, CROP.width, CROP.height);
  const { data } = pen.getImageData(0, 0, CROP.width, CROP.height);
  return { ...CROP, data };
}
