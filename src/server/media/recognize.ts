import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { SegmentId, type TakeId } from '@/core/base/ids';
import { avcString } from '@/core/codec/codec-string';
import type { H264Profile } from '@/core/codec/levels';
import { type FoundMedia, recognizeTracks } from '@/core/keeping/recognize-tracks';
import { type SegmentHead, TakeEvent, TRACK_NAMES, TrackKind } from '@/core/recording/take';
import { lines } from './ffmpeg';
import { madePath, namesIn, sizeOf, takeDir } from './media-folder';
import { packetTimes } from './probe';

const Stream = z.object({
  codec_type: z.string(),
  codec_name: z.string().default('unknown'),
  profile: z.string().optional(),
  level: z.number().optional(),
  width: z.number().optional(),
  height: z.number().optional(),
  sample_rate: z.string().optional(),
  channels: z.number().optional(),
  initial_padding: z.number().default(0),
  tags: z.object({ title: z.string().optional() }).default({}),
});
const Probed = z.object({
  streams: z.array(Stream).default([]),
  packets: z.array(z.object({ stream_index: z.number(), data_hash: z.string().optional() })).default([]),
});

type Probe = { stream: z.infer<typeof Stream>; hashes: string[] };

/** The streams of a file and the hashes of the first packets of each. @returns null when it is no media file */
async function probeStreams(path: string): Promise<Probe[] | null> {
  const said: string[] = [];
  const args = ['-v', 'error', '-show_streams', '-show_packets', '-show_data_hash', 'md5'];
  try {
    // Every track of a take has a packet within its first seconds.
    const more = ['-read_intervals', '%+5', '-of', 'json', '-i', path];
    await lines('ffprobe', [...args, ...more], (line) => said.push(line));
    const { streams, packets } = Probed.parse(JSON.parse(said.join('\n')));
    return streams.map((stream, i) => ({
      stream,
      hashes: packets
        .filter(({ stream_index }) => stream_index === i)
        .map(({ data_hash }) => data_hash ?? ''),
    }));
  } catch {
    return null;
  }
}

/** Profiles by the probe's names; whatever else it says is read as the one that holds most. */
const PROFILES: Record<string, H264Profile> = {
  Main: 'main',
  'Constrained Baseline': 'constrained-baseline',
};
const SOUND_CODECS: Record<string, string> = { opus: 'opus', pcm_s16le: 'pcm-s16', pcm_s24le: 'pcm-s24' };

function codecOf({ codec_name: name, profile = '', level = 40 }: z.infer<typeof Stream>): string {
  if (name === 'h264') return avcString(PROFILES[profile] ?? 'high', level);
  if (name === 'vp9') return 'vp09.00.40.08';
  return name === 'av1' ? 'av01.0.08M.08' : (SOUND_CODECS[name] ?? name);
}

/** Whether a file holds lines of events; an empty one is an events track in which nothing happened. */
async function isEvents(path: string): Promise<boolean> {
  const [line = ''] = (await readFile(path, 'utf8')).split('\n', 1);
  if (line === '') return true;
  try {
    return TakeEvent.safeParse(JSON.parse(line)).success;
  } catch {
    return false;
  }
}

/** Sample rate, Hz in which Opus counts its padding (RFC 7845 section 5.1). */
const OPUS_CLOCK = 48_000;

type Recognized = FoundMedia & { hashes: string[] };

async function recognize(path: string, id: SegmentId): Promise<Recognized | null> {
  const bytes = (await sizeOf(path)) ?? 0;
  const [first] = bytes > 0 ? ((await probeStreams(path)) ?? []) : [];
  if (!first) {
    const events = bytes < 500_000_000 && (await isEvents(path));
    return events ? { id, startUs: 0, encoderDelayUs: 0, media: { type: 'events' }, hashes: [] } : null;
  }
  const { stream, hashes } = first;
  const { timesUs } = await packetTimes(path);
  const seconds = Math.max(1, ((timesUs.at(-1) ?? 0) - (timesUs[0] ?? 0)) / 1e6);
  const bitrateKbps = (bytes * 8) / 1000 / seconds;
  const codec = codecOf(stream);
  const startUs = Math.max(0, timesUs[0] ?? 0);
  if (stream.codec_type === 'video' && stream.width && stream.height)
    return {
      ...{ id, startUs, hashes, encoderDelayUs: 0 },
      media: { type: 'video', codec, width: stream.width, height: stream.height, bitrateKbps },
    };
  if (stream.codec_type !== 'audio') return null;
  const delayUs = Math.round((stream.initial_padding * 1e6) / OPUS_CLOCK);
  return {
    ...{ id, startUs, hashes, encoderDelayUs: codec === 'opus' ? delayUs : 0 },
    media: {
      type: 'audio',
      codec,
      sampleRate: Number(stream.sample_rate ?? 48_000),
      channels: Math.min(2, stream.channels ?? 1),
      bitrateKbps,
    },
  };
}

/**
 * What the segments in a take's folder are, from the files alone. The file of all tracks names them, where it was made: its packets
 * are those of the segments.
 */
export async function recognizeSegments(take: TakeId): Promise<SegmentHead[]> {
  const folder = takeDir(take);
  const found: Recognized[] = [];
  for (const name of await namesIn(folder)) {
    const id = SegmentId.safeParse(name.replace(/\.media$/, ''));
    const file = name.endsWith('.media') && id.success ? await recognize(join(folder, name), id.data) : null;
    if (file) found.push(file);
  }
  const recorded = (await probeStreams(madePath(take, 'recorded.mkv'))) ?? [];
  return recognizeTracks(
    found.map(({ hashes, ...file }) => {
      const named = nameOf(hashes, recorded);
      return named ? { ...file, named } : file;
    }),
  );
}

/** The track whose stream has the most first packets in common with a file: two silences begin alike. */
function nameOf(hashes: readonly string[], recorded: readonly Probe[]): TrackKind | undefined {
  const common = (other: readonly string[]) => {
    const differs = hashes.findIndex((hash, i) => hash !== other[i]);
    return differs < 0 ? hashes.length : differs;
  };
  const [best] = recorded
    .map(({ stream, hashes: other }) => ({ title: stream.tags.title, count: common(other) }))
    .sort((a, b) => b.count - a.count);
  if (!best || best.count === 0) return undefined;
  return TrackKind.options.find((kind) => best.title?.startsWith(TRACK_NAMES[kind]));
}
