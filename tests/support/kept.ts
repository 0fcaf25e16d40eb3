import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { FrameLedger } from '@/core/recording/take';
import { text } from './card-film';
import { rows } from './processes';

export type KeptTrack = { title: string; startUs: number; endUs: number; packets: number };

/** Every stream of a take's one file: its name, its first instant and its last. */
export async function keptTracks(folder: string): Promise<KeptTrack[]> {
  const file = join(folder, 'recorded.mkv');
  const entries = 'stream=index:stream_tags=title:packet=stream_index,pts_time,duration_time';
  const probed = JSON.parse(
    await text('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'json', file]),
  );
  return probed.streams.map(({ index, tags }: { index: number; tags: { title: string } }) => {
    const own = probed.packets.filter((packet: { stream_index: number }) => packet.stream_index === index);
    const us = (packet: { pts_time: string; duration_time?: string }) => Number(packet.pts_time) * 1e6;
    const last = own.at(-1);
    return {
      title: tags.title,
      startUs: Math.max(0, us(own[0])),
      endUs: us(last) + Number(last.duration_time ?? 0) * 1e6,
      packets: own.length,
    };
  });
}

/** The stream of a track in a take's one file, as `ffmpeg` names streams. @param kind `a` for sounds, `v` for pictures */
export async function streamOf(file: string, kind: 'a' | 'v', title: string): Promise<string> {
  const args = [
    '-v',
    'error',
    '-select_streams',
    kind,
    '-show_entries',
    'stream_tags=title',
    '-of',
    'csv=p=0',
  ];
  const titles = (await text('ffprobe', [...args, file])).trim().split('\n');
  const at = titles.indexOf(title);
  if (at < 0) throw new Error(`${file} has no track “${title}”, only ${titles.join(', ')}.`);
  return `${kind}:${at}`;
}

/** What a decoder complains of in a file, from its first byte to its last; empty when it is sound. */
export const complaints = (file: string): Promise<string> =>
  // Errors are what is asked for, so they go where the answer goes. Every picture keeps its own time: on a guessed even
  // grid two may fall on one, which is no fault of the file.
  text('sh', [
    '-c',
    'ffmpeg -v error -i "$0" -fps_mode passthrough -enc_time_base:v 1:1000000 -f null - 2>&1',
    file,
  ]).then((said) => said.trim());

/** Names of a take's segments whose file differs from what the browser said it had; half-made files count too. */
export async function differing(takeId: string, folder: string): Promise<string[]> {
  const segments = await rows<{ id: string; sha256: string }>(
    'select s.id, s.sha256 from segment s join track t on t.id = s.track_id where t.take_id = $1',
    [takeId],
  );
  const wrong = segments
    .filter(({ id, sha256 }) => {
      const path = join(folder, `${id}.media`);
      return !existsSync(path) || createHash('sha256').update(readFileSync(path)).digest('hex') !== sha256;
    })
    .map(({ id }) => id);
  return [...wrong, ...readdirSync(folder).filter((name) => name.includes('.making-'))];
}

/** What a take says of its frames. */
export type Ledger = Record<'screen' | 'camera', FrameLedger & { lostBefore: number }>;
/** What was counted of each picture of a take. */
export const ledgerOf = async (takeId: string): Promise<Ledger> => {
  const [take] = await rows<{ ledger: Ledger }>('select ledger from take where id = $1', [takeId]);
  if (!take) throw new Error('There is no such take.');
  return take.ledger;
};
