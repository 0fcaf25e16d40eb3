import { z } from 'zod';
import { lines } from './ffmpeg';

const Stream = z.object({
  index: z.coerce.number(),
  codec_type: z.string().optional(),
  codec_name: z.string().default('unknown'),
  profile: z.string().optional(),
  level: z.coerce.number().optional(),
  width: z.coerce.number().optional(),
  height: z.coerce.number().optional(),
  pix_fmt: z.string().default('unknown'),
  sample_aspect_ratio: z.string().optional(),
  field_order: z.string().optional(),
  r_frame_rate: z.string().optional(),
  sample_rate: z.coerce.number().optional(),
  channels: z.coerce.number().optional(),
  'disposition:attached_pic': z.coerce.number().default(0),
});
export type ProbedStream = z.infer<typeof Stream>;

const Format = z.object({
  format_name: z.string(),
  size: z.coerce.number(),
  duration: z.coerce.number().default(0),
});
type ProbedFormat = z.infer<typeof Format>;

export type ProbedPicture = {
  stream: ProbedStream;
  /** Of all pictures, ascending. */
  timesUs: number[];
  keyframesUs: number[];
  /** Whether they are stored in another order than they are shown. */
  reordered: boolean;
};
/** Times of a stream's packets, as they are stored. */
type Times = { storedUs: number[]; keyframesUs: number[] };

/** What is asked of a stream and of the file: the fields of the schemas, no names and no titles. */
const ASKED = [
  'packet=stream_index,pts_time,flags',
  `stream=${Object.keys(Stream.shape)
    .filter((key) => !key.includes(':'))
    .join(',')}`,
  'stream_disposition=attached_pic',
  `format=${Object.keys(Format.shape).join(',')}`,
].join(':');

/**
 * Reads a file's streams and the times of all its pictures at once: to start a program takes longer than to read a minute.
 * @returns `pictures` without those that are only a cover
 * @throws an Error with ffprobe's last words when it is no media file
 */
export async function probeFile(
  path: string,
  signal?: AbortSignal,
): Promise<{ pictures: ProbedPicture[]; sounds: ProbedStream[]; format: ProbedFormat }> {
  const times = new Map<number, Times>();
  const others: string[] = [];
  const take = (line: string) => {
    if (line.startsWith('packet|')) addPacket(times, line);
    else others.push(line);
  };
  await lines('ffprobe', ['-v', 'error', '-show_entries', ASKED, '-of', 'compact', '-i', path], take, signal);
  const told = (section: string) =>
    others.filter((line) => line.startsWith(`${section}|`)).map((line) => fieldsOf(line));
  // The streams of a programme (MPEG transport streams) are listed twice: under it, and on their own.
  const byIndex = new Map(told('stream').map((fields) => [Number(fields.index), Stream.parse(fields)]));
  const streams = [...byIndex.values()].sort((a, b) => a.index - b.index);
  const pictures = streams.filter(
    (stream) => stream.codec_type === 'video' && stream['disposition:attached_pic'] === 0,
  );
  return {
    pictures: pictures.map((stream) => pictureOf(stream, times.get(stream.index))),
    sounds: streams.filter(({ codec_type }) => codec_type === 'audio'),
    format: Format.parse(told('format')[0]),
  };
}

/** What only helps to decode the next one, or has no time, is left out. */
function addPacket(times: Map<number, Times>, line: string): void {
  const [, stream, time, flags = ''] =
    /^packet\|stream_index=(\d+)\|pts_time=(-?[\d.]+)\|flags=(.*)$/.exec(line) ?? [];
  if (!stream || !time || flags.includes('D')) return;
  const of = times.get(Number(stream)) ?? { storedUs: [], keyframesUs: [] };
  times.set(Number(stream), of);
  const us = Math.round(Number(time) * 1e6);
  of.storedUs.push(us);
  if (flags.startsWith('K')) of.keyframesUs.push(us);
}

/** What is not known is left out. */
function fieldsOf(line: string): Record<string, string> {
  const pairs = line.split('|').flatMap((field) => {
    const [, key, value] = /^([^=]+)=(.*)$/.exec(field) ?? [];
    return key && value && value !== 'N/A' && value !== 'unknown' ? [[key, value]] : [];
  });
  return Object.fromEntries(pairs);
}

function pictureOf(stream: ProbedStream, { storedUs, keyframesUs }: Times = NO_TIMES): ProbedPicture {
  const timesUs = [...storedUs].sort((a, b) => a - b);
  return { stream, timesUs, keyframesUs, reordered: storedUs.some((us, n) => us !== timesUs[n]) };
}
const NO_TIMES: Times = { storedUs: [], keyframesUs: [] };
