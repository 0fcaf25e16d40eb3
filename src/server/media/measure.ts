import { open } from 'node:fs/promises';
import { percentile } from '@/core/base/percentile';
import { ProblemError } from '@/core/base/problem';
import { frameTimeUs } from '@/core/base/rational';
import type { Loudness } from '@/core/deliver/levelling';
import type { Container } from '@/core/destination/destination';
import type { MeasuredFile, MeasuredSound, MeasuredVideo } from '@/core/destination/rules';
import { type ProbedPicture, type ProbedStream, probeFile } from './probe-file';
import { measureLoudness } from './reference-meter';

const CONTAINERS: [Container, RegExp][] = [
  ['matroska', /matroska/],
  ['mp4', /mp4/],
];

/**
 * What a file on disk really is: container, streams, the times of every picture, loudness. Nothing is taken from names.
 * @param withLoudness decodes all of the sound, which takes a second for some minutes
 * @throws {ProblemError} `bad-media` when it is no media file
 */
export async function measureFile(
  path: string,
  { withLoudness = true, signal }: { withLoudness?: boolean; signal?: AbortSignal } = {},
): Promise<MeasuredFile> {
  // Each is a program of its own that uses one core. Without a sound the second one fails: that is known when the first has ended.
  const [probed, heard] = await Promise.allSettled([
    probeFile(path, signal),
    withLoudness ? measureLoudness(['-i', path, '-map', '0:a:0'], signal) : null,
  ]);
  signal?.throwIfAborted();
  if (probed.status === 'rejected')
    throw new ProblemError(
      {
        code: 'bad-media',
        message: 'This file cannot be read as video or sound.',
        hint: 'Choose another file, or check that all of it was copied.',
      },
      { cause: probed.reason },
    );
  const { pictures, sounds, format } = probed.value;
  const container = await containerOf(path, format.format_name);
  const [picture] = pictures;
  const [sound] = sounds;
  if (sound && heard.status === 'rejected') throw heard.reason;
  return {
    container: container.known,
    containerName: container.name,
    bytes: format.size,
    durationUs: Math.round(format.duration * 1e6),
    fastStart: container.known === 'mp4' || container.known === 'mov' ? await isFastStart(path) : null,
    video: picture ? measuredVideo(picture) : null,
    sound: sound ? measuredSound(sound, heard.status === 'fulfilled' ? heard.value : null) : null,
    videoStreams: pictures.length,
    soundStreams: sounds.length,
  };
}

async function containerOf(
  path: string,
  format: string,
): Promise<{ known: Container | 'other'; name: string }> {
  const known = CONTAINERS.find(([, pattern]) => pattern.test(format))?.[0] ?? 'other';
  if (known === 'matroska') return { known, name: 'Matroska' };
  if (known === 'other') return { known, name: format };
  // Both are the ISO base media format; the major brand tells them apart (ISO/IEC 14496-12, 4.3).
  const [brand] = await boxes(path, 1);
  return brand?.brand === 'qt  ' ? { known: 'mov', name: 'MOV' } : { known, name: 'MP4' };
}

type Box = { type: string; brand: string };

/** The outermost boxes of an ISO base media file, in their order (ISO/IEC 14496-12, 4.2). */
async function boxes(path: string, most: number): Promise<Box[]> {
  const file = await open(path, 'r');
  try {
    const found: Box[] = [];
    const head = Buffer.alloc(16);
    for (let at = 0; found.length < most; ) {
      const { bytesRead } = await file.read(head, 0, 16, at);
      if (bytesRead < 8) break;
      const short = head.readUInt32BE(0);
      const size = short === 1 ? Number(head.readBigUInt64BE(8)) : short;
      found.push({ type: head.toString('latin1', 4, 8), brand: head.toString('latin1', 8, 12) });
      // Size 0: up to the end of the file.
      if (size < 8) break;
      at += size;
    }
    return found;
  } finally {
    await file.close();
  }
}

async function isFastStart(path: string): Promise<boolean> {
  const types = (await boxes(path, 64)).map(({ type }) => type);
  const [index, data] = [types.indexOf('moov'), types.indexOf('mdat')];
  return index >= 0 && (data < 0 || index < data);
}

/** Containers that count in milliseconds move every picture by up to this from its place. */
const ROUNDING_US = 1100;

/** What a file's picture really is, of the times of all its frames. */
export function measuredVideo({ stream, timesUs, keyframesUs }: ProbedPicture): MeasuredVideo {
  const gaps = timesUs.slice(1).map((us, i) => us - (timesUs[i] ?? 0));
  const [num = 0, den = 1] = (stream.r_frame_rate ?? '0/1').split('/').map(Number);
  const nominal = { num: num || 1, den: den || 1 };
  const first = timesUs[0] ?? 0;
  const even = timesUs.every((us, n) => Math.abs(us - first - frameTimeUs(n, nominal)) <= ROUNDING_US);
  const ends = [...keyframesUs, timesUs.at(-1) ?? 0];
  const longest = ends.slice(1).reduce((most, us, i) => Math.max(most, us - (ends[i] ?? 0)), 0);
  const medianUs = percentile(gaps, 0.5);
  return {
    codec: stream.codec_name,
    profile: stream.profile ?? null,
    level: stream.level !== undefined && stream.level > 0 ? stream.level : null,
    width: stream.width ?? 0,
    height: stream.height ?? 0,
    pixelFormat: stream.pix_fmt,
    squarePixels: [undefined, '1:1', '0:1'].includes(stream.sample_aspect_ratio),
    progressive: [undefined, 'progressive'].includes(stream.field_order),
    constantRate: even,
    rate: even || medianUs <= 0 ? nominal : { num: Math.round(1e9 / medianUs), den: 1000 },
    frames: timesUs.length,
    longestKeyframeGapS: longest / 1e6,
  };
}

const measuredSound = (stream: ProbedStream, loudness: Loudness | null): MeasuredSound => ({
  codec: stream.codec_name,
  channels: stream.channels ?? 0,
  sampleRate: stream.sample_rate ?? 0,
  lufs: loudness?.lufs ?? null,
  truePeakDbtp: loudness?.truePeakDbtp ?? null,
});
