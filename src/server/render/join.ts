import {
  ALL_FORMATS,
  type EncodedPacket,
  EncodedPacketSink,
  EncodedVideoPacketSource,
  FilePathSource,
  FilePathTarget,
  Input,
  type InputVideoTrack,
  Mp4OutputFormat,
  Output,
} from 'mediabunny';
import { type FrameRate, frameTimeUs } from '@/core/rational';
import type { PicturePart } from '@/core/render/plan';
import { bothConfigurations } from './avc-configuration';

type Opened = { part: PicturePart; track: InputVideoTrack; input: Input };

async function openPart(part: PicturePart): Promise<Opened> {
  const input = new Input({ source: new FilePathSource(part.path), formats: ALL_FORMATS });
  const track = await input.getPrimaryVideoTrack();
  if (!track) throw new Error(`${part.path} has no picture.`);
  return { part, track, input };
}

/**
 * Puts encoded and copied stretches one after the other into one MP4 picture track, packet by packet, nothing encoded.
 * @param rate of the even grid on which all pictures lie; null where copied ones keep their own times
 */
export async function joinParts(
  parts: readonly PicturePart[],
  rate: FrameRate | null,
  path: string,
  signal: AbortSignal,
): Promise<void> {
  const opened = await Promise.all(parts.map(openPart));
  const [first] = opened;
  if (!first?.track.codec) throw new Error('There is nothing to join.');
  const configurations = await Promise.all(opened.map(({ track }) => track.getDecoderConfig()));
  const [configuration] = configurations;
  if (!configuration) throw new Error(`${first.part.path} has no decoder configuration.`);
  const description =
    first.track.codec === 'avc'
      ? bothConfigurations(
          configurations.flatMap((one) => (one?.description ? [bytesOf(one.description)] : [])),
        )
      : configuration.description;
  const output = new Output({ format: new Mp4OutputFormat(), target: new FilePathTarget(path) });
  const source = new EncodedVideoPacketSource(first.track.codec);
  output.addVideoTrack(source, rate ? { frameRate: rate.num / rate.den } : {});
  await output.start();
  let meta: { decoderConfig: VideoDecoderConfig } | undefined = {
    decoderConfig: { ...configuration, description },
  };
  for (const { part, track } of opened) {
    const sink = new EncodedPacketSink(track);
    const base = await track.getFirstTimestamp();
    const copy = part.kind === 'copy';
    const start = copy ? await sink.getKeyPacket(part.fromUs / 1e6 + 0.002) : await sink.getFirstPacket();
    if (!start) throw new Error(`${part.path} has no picture at ${copy ? part.fromUs : 0} µs.`);
    for await (const packet of sink.packets(start)) {
      signal.throwIfAborted();
      const us = Math.round(packet.timestamp * 1e6);
      // Files count in milliseconds: what begins a hair before the end belongs to what comes after.
      if (copy && us >= part.toUs - 2000) {
        if (packet.type === 'key') break;
        continue;
      }
      const own = copy ? us - part.fromUs : us - Math.round(base * 1e6);
      await source.add(packet.clone({ timestamp: place(part.atUs + own, rate), ...lasting(packet) }), meta);
      meta = undefined;
    }
  }
  await output.finalize();
  for (const { input } of opened) input.dispose();
}

const lasting = ({ duration }: EncodedPacket) => ({ duration });

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
