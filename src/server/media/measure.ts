import { open } from 'node:fs/promises';
import { z } from 'zod';
import { percentile } from '@/core/base/percentile';
import { ProblemError } from '@/core/base/problem';
import { frameTimeUs } from '@/core/base/rational';
import type { Loudness } from '@/core/deliver/levelling';
import type { Container } from '@/core/destination/destination';
import type { MeasuredFile, MeasuredSound, MeasuredVideo } from '@/core/destination/rules';
import { lines, words } from './ffmpeg';

const Stream = z.object({
  index: z.number(),
  codec_type: z.string().optional(),
  codec_name: z.string().default('unknown'),
  profile: z.string().optional(),
  level: z.number().optional(),
  width: z.number().optional(),
  height: z.number().optional(),
  pix_fmt: z.string().optional(),
  sample_aspect_ratio: z.string().optional(),
  field_order: z.string().optional(),
  r_frame_rate: z.string().optional(),
  sample_rate: z.string().optional(),
  channels: z.number().optional(),
  disposition: z.object({ attached_pic: z.number().default(0) }).default({ attached_pic: 0 }),
});
type Stream = z.infer<typeof Stream>;
const Probed = z.object({
  streams: z.array(Stream),
  format: z.object({ format_name: z.string(), size: z.string(), duration: z.string().optional() }),
});

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
  const said: string[] = [];
  try {
    await lines(
      'ffprobe',
      ['-v', 'error', '-show_streams', '-show_format', '-of', 'json', '-i', path],
      (line) => said.push(line),
      signal,
    );
  } catch (error) {
    signal?.throwIfAborted();
    throw new ProblemError(
      {
        code: 'bad-media',
        message: 'This file cannot be read as video or sound.',
        hint: 'Choose another file, or check that all of it was copied.',
      },
      { cause: error },
    );
  }
  const { streams, format } = Probed.parse(JSON.parse(said.join('\n')));
  const pictures = streams.filter((s) => s.codec_type === 'video' && s.disposition.attached_pic === 0);
  const sounds = streams.filter((s) => s.codec_type === 'audio');
  const container = await containerOf(path, format.format_name);
  const [picture] = pictures;
  const [sound] = sounds;
  // Each is a program of its own that uses one core.
  const [fastStart, video, heard] = await Promise.all([
    container.known === 'mp4' || container.known === 'mov' ? isFastStart(path) : null,
    picture ? measureVideo(path, picture, signal) : null,
    sound ? measureSound(path, sound, withLoudness, signal) : null,
  ]);
  return {
    container: container.known,
    containerName: container.name,
    bytes: Number(format.size),
    durationUs: Math.round(Number(format.duration ?? 0) * 1e6),
    fastStart,
    video,
    sound: heard,
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

/** Times of all pictures, µs ascending, and of the keyframes; whether they are stored in another order. */
export async function pictureTimes(
  path: string,
  stream = 'v:0',
  signal?: AbortSignal,
): Promise<{ timesUs: number[]; keyframesUs: number[]; reordered: boolean }> {
  const stored: number[] = [];
  const keyframesUs: number[] = [];
  const args = [
    '-v',
    'error',
    '-select_streams',
    stream,
    '-show_entries',
    'packet=pts_time,flags',
    '-of',
    'csv=p=0',
  ];
  await lines(
    'ffprobe',
    [...args, '-i', path],
    (line) => {
      const [time = '', flags = ''] = line.split(',');
      const us = Math.round(Number.parseFloat(time) * 1e6);
      if (!Number.isFinite(us) || flags.includes('D')) return;
      stored.push(us);
      if (flags.startsWith('K')) keyframesUs.push(us);
    },
    signal,
  );
  const timesUs = [...stored].sort((a, b) => a - b);
  return { timesUs, keyframesUs, reordered: stored.some((us, i) => us !== timesUs[i]) };
}

/** Containers that count in milliseconds move every picture by up to this from its place. */
const ROUNDING_US = 1100;

async function measureVideo(path: string, stream: Stream, signal?: AbortSignal): Promise<MeasuredVideo> {
  const { timesUs, keyframesUs } = await pictureTimes(path, String(stream.index), signal);
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
    pixelFormat: stream.pix_fmt ?? 'unknown',
    squarePixels: [undefined, '1:1', '0:1'].includes(stream.sample_aspect_ratio),
    progressive: [undefined, 'progressive', 'unknown'].includes(stream.field_order),
    constantRate: even,
    rate: even || medianUs <= 0 ? nominal : { num: Math.round(1e9 / medianUs), den: 1000 },
    frames: timesUs.length,
    longestKeyframeGapS: longest / 1e6,
  };
}

async function measureSound(
  path: string,
  stream: Stream,
  withLoudness: boolean,
  signal?: AbortSignal,
): Promise<MeasuredSound> {
  const loudness = withLoudness
    ? await measureLoudness(['-i', path, '-map', `0:${stream.index}`], signal)
    : null;
  return {
    codec: stream.codec_name,
    channels: stream.channels ?? 0,
    sampleRate: Number(stream.sample_rate ?? 0),
    lufs: loudness?.lufs ?? null,
    truePeakDbtp: loudness?.truePeakDbtp ?? null,
  };
}

/**
 * Programme loudness and true peak by ITU-R BS.1770-4.
 * @param input options and file for ffmpeg
 * @returns null when everything is below the gate: there is nothing to hear
 */
export async function measureLoudness(
  input: readonly string[],
  signal?: AbortSignal,
): Promise<Loudness | null> {
  const summary = await meterOf(input, 'ebur128=peak=true:framelog=verbose', signal);
  const lufs = programmeOf(summary);
  const truePeakDbtp = Number(/Peak:\s+(-?[\d.]+) dBFS/.exec(summary)?.[1]);
  return lufs !== null && Number.isFinite(truePeakDbtp) ? { lufs, truePeakDbtp } : null;
}

/**
 * Programme loudness behind a filter, LUFS, without true peaks: those take as long again.
 * @returns null when everything is below the gate
 */
export async function measureProgramme(
  input: readonly string[],
  filter: string,
  signal?: AbortSignal,
): Promise<number | null> {
  return programmeOf(await meterOf(input, `${filter},ebur128=framelog=verbose`, signal));
}

/** Below the absolute gate of BS.1770-4 the meter says −70: nothing was above it. */
function programmeOf(summary: string): number | null {
  const lufs = Number(/I:\s+(-?[\d.]+) LUFS/.exec(summary)?.[1]);
  return Number.isFinite(lufs) && lufs > -69.9 ? lufs : null;
}

/** What ffmpeg's meter says at its end. */
async function meterOf(input: readonly string[], filter: string, signal?: AbortSignal): Promise<string> {
  const said = await words(
    ['-hide_banner', '-nostdin', '-nostats', ...input, '-vn', '-af', filter, '-f', 'null', '-'],
    signal,
  );
  return said.slice(said.lastIndexOf('Summary:'));
}
