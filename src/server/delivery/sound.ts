import { once } from 'node:events';
import { createWriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import { levellingFilter, levellingForecast } from '@/core/commands/levelling-filter';
import { seconds } from '@/core/commands/seconds';
import { soundEncoderArgs } from '@/core/commands/sound-encoder';
import { rawMix, soundPieceArgs } from '@/core/commands/sound-graph';
import { type Levelling, levelling, settleLevelling } from '@/core/deliver/levelling';
import type { PlannedSound } from '@/core/deliver/plan';
import { decode, ffmpeg } from '../media/ffmpeg';
import { measureLoudness, measureProgrammes } from '../media/reference-meter';

const BYTES = 4;

/** The mix of all pieces, one after the other, as raw floats: exactly as many samples as planned. */
async function mix(
  { pieces, encoding: { channels } }: PlannedSound,
  path: string,
  signal: AbortSignal,
): Promise<void> {
  const file = createWriteStream(path);
  const write = async (data: Buffer) => {
    if (!file.write(data)) await once(file, 'drain');
  };
  try {
    for (const piece of pieces) {
      const args = soundPieceArgs(piece, channels);
      const wanted = piece.samples * channels * BYTES;
      let got = 0;
      if (args)
        await decode(
          [...args, '-c:a', 'pcm_f32le', ...rawMix(channels)],
          (data) => {
            const part = data.subarray(0, Math.max(0, wanted - got));
            got += part.length;
            return write(part);
          },
          signal,
        );
      // A track that ended before its piece is silent up to the end.
      for (let left = wanted - got; left > 0; left -= 1_000_000)
        await write(Buffer.alloc(Math.min(left, 1_000_000)));
    }
  } finally {
    file.end();
    await finished(file);
  }
}

/**
 * Mixes the sound of a parcel, brings it to its loudness and encodes it.
 * @param path of the finished sound; the mix lies beside it while it is made
 */
export async function makeSound(sound: PlannedSound, path: string, signal: AbortSignal): Promise<void> {
  const { loudness, pieces, encoding, copied } = sound;
  const encoder = soundEncoderArgs(encoding);
  if (copied) {
    const stretch = ['-ss', seconds(copied.fromUs), '-t', seconds(copied.toUs - copied.fromUs)];
    return ffmpeg([...stretch, '-i', copied.path, '-map', '0:a:0', '-c', 'copy', path], { signal });
  }
  const [only] = pieces;
  const args = only && soundPieceArgs(only, encoding.channels);
  // Nothing to join and nothing to measure: then nothing lies between.
  if (!loudness && pieces.length === 1 && args) return ffmpeg([...args, ...encoder, path], { signal });
  const raw = `${path}.f32`;
  await mix(sound, raw, signal);
  const input = [...rawMix(encoding.channels), '-i', raw];
  const encode = (level: Levelling) =>
    ffmpeg([...input, '-af', levellingFilter(level), ...encoder, path], { signal });
  const measured = loudness && (await measureLoudness(input, signal));
  if (!loudness || !measured) return encode(AS_MIXED);
  const first = levelling(loudness, measured);
  if (first.limitDbfs === null) return encode(first);
  await settleLevelling(
    loudness,
    first,
    measured.lufs,
    (levels) => measureProgrammes(input, levels.map(levellingForecast), signal),
    async (level) => {
      await encode(level);
      const [lufs = null] = await measureProgrammes(['-i', path], ['anull'], signal);
      return lufs;
    },
  );
}

const AS_MIXED: Levelling = { gainDb: 0, limitDbfs: null };
