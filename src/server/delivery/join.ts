import {
  ALL_FORMATS,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  FilePathSource,
  FilePathTarget,
  Input,
  type InputVideoTrack,
  Mp4OutputFormat,
  Output,
  type VideoCodec,
} from 'mediabunny';
import { type FrameRate, frameTimeUs } from '@/core/base/rational';
import { joinedConfiguration } from '@/core/codec/avc-configuration';
import { filmPath } from '@/core/commands/encode-part';
import type { PicturePart } from '@/core/deliver/picture-part';

/** Lends the picture track of a part. One file is open at a time: a cut may have thousands. */
async function withTrack<T>(path: string, work: (track: InputVideoTrack) => Promise<T>): Promise<T> {
  const input = new Input({ source: new FilePathSource(path), formats: ALL_FORMATS });
  try {
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error(`${path} has no picture.`);
    return await work(track);
  } finally {
    input.dispose();
  }
}

/**
 * Puts encoded and copied stretches one after the other into one MP4 picture track, packet by packet, nothing encoded.
 * @param scratch in which the encoded ones lie
 * @param rate of the even grid on which all pictures lie; null where copied ones keep their own times
 */
export async function joinParts(
  parts: readonly PicturePart[],
  rate: FrameRate | null,
  scratch: string,
  path: string,
  signal: AbortSignal,
): Promise<void> {
  const encodings: { codec: VideoCodec; configuration: VideoDecoderConfig }[] = [];
  for (const file of new Set(parts.map((part) => filmPath(part, scratch))))
    await withTrack(file, async (track) => {
      const configuration = await track.getDecoderConfig();
      if (track.codec && configuration) encodings.push({ codec: track.codec, configuration });
    });
  const [first] = encodings;
  if (!first) throw new Error('There is nothing to join.');
  const { codec, configuration } = first;
  const sets = encodings.flatMap((one) =>
    one.configuration.description ? [bytesOf(one.configuration.description)] : [],
  );
  const description = codec === 'avc' ? joinedConfiguration(sets) : configuration.description;
  const output = new Output({ format: new Mp4OutputFormat(), target: new FilePathTarget(path) });
  const source = new EncodedVideoPacketSource(codec);
  output.addVideoTrack(source, rate ? { frameRate: rate.num / rate.den } : {});
  await output.start();
  let meta: { decoderConfig: VideoDecoderConfig } | undefined = {
    decoderConfig: { ...configuration, description },
  };
  const copyPackets = async (part: PicturePart, track: InputVideoTrack) => {
    const sink = new EncodedPacketSink(track);
    const base = await track.getFirstTimestamp();
    const copy = part.kind === 'copy';
    const start = copy ? await sink.getKeyPacket(part.fromUs / 1e6 + 0.002) : await sink.getFirstPacket();
    if (!start) throw new Error(`${filmPath(part, scratch)} has no picture at ${copy ? part.fromUs : 0} µs.`);
    for await (const packet of sink.packets(start)) {
      signal.throwIfAborted();
      const us = Math.round(packet.timestamp * 1e6);
      // Files count in milliseconds: what begins a hair before the end belongs to what comes after.
      if (copy && us >= part.toUs - 2000) {
        if (packet.type === 'key') break;
        continue;
      }
      const own = copy ? us - part.fromUs : us - Math.round(base * 1e6);
      await source.add(packet.clone({ timestamp: place(part.atUs + own, rate) }), meta);
      meta = undefined;
    }
  };
  for (const part of parts) await withTrack(filmPath(part, scratch), (track) => copyPackets(part, track));
  await output.finalize();
}

/** Seconds, on the grid where there is one. */
const place = (us: number, rate: FrameRate | null): number => {
  if (!rate) return Math.max(0, us) / 1e6;
  const n = Math.max(0, Math.round((us * rate.num) / (rate.den * 1e6)));
  return rate.den === 1 ? n / rate.num : frameTimeUs(n, rate) / 1e6;
};

const bytesOf = (data: AllowSharedBufferSource): Uint8Array =>
  ArrayBuffer.isView(data)
    ? new Uint8Array(data.buffer, data.byteOffset, data.byteLength)
    : new Uint8Array(data);
