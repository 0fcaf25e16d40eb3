import type { Segment } from './segment';

/** Turns samples into packets of a segment. */
export type Encode = {
  put: (planes: Float32Array[]) => void;
  finish: () => Promise<void>;
  /** Throws away what is left; also one that is closed already. */
  close: () => void;
};

/**
 * Sound that an Opus encoder puts before the first sample, from its own header: "pre-skip (16 bits, unsigned, little endian):
 * the number of samples (at 48 kHz) to discard from the decoder output" (RFC 7845 section 5.1, bytes 10 and 11).
 */
function preSkipUs(meta: EncodedAudioChunkMetadata | undefined): number {
  const header = meta?.decoderConfig?.description;
  if (!header || header.byteLength < 19) return 0;
  const view = ArrayBuffer.isView(header)
    ? new DataView(header.buffer, header.byteOffset, header.byteLength)
    : new DataView(header);
  return Math.round((view.getUint16(10, true) * 1e6) / 48_000);
}

/** @param open begins the segment; called with the first packet, which tells the encoder's delay */
export function opusEncoder(
  open: (encoderDelayUs: number) => Segment,
  originUs: number,
  sampleRate: number,
  channels: number,
  kbps: number,
  onProblem: (error: unknown) => void,
): Encode {
  let placed = 0;
  let segment: Segment | null = null;
  const encoder = new AudioEncoder({
    output: (chunk, meta) => {
      segment ??= open(preSkipUs(meta));
      const data = new Uint8Array(chunk.byteLength);
      chunk.copyTo(data);
      segment.add({ data, key: true, tUs: chunk.timestamp, durationUs: chunk.duration ?? 20_000 }, meta);
    },
    error: onProblem,
  });
  encoder.configure({ codec: 'opus', sampleRate, numberOfChannels: channels, bitrate: kbps * 1000 });
  return {
    put: (planes) => {
      const frames = planes[0]?.length ?? 0;
      const data = new Float32Array(frames * channels);
      planes.forEach((plane, i) => {
        data.set(plane, i * frames);
      });
      const timestamp = Math.round(originUs + (placed * 1e6) / sampleRate);
      placed += frames;
      const chunk = new AudioData({
        format: 'f32-planar',
        sampleRate,
        numberOfChannels: channels,
        numberOfFrames: frames,
        timestamp,
        data,
      });
      try {
        encoder.encode(chunk);
      } finally {
        chunk.close();
      }
    },
    finish: () => encoder.flush(),
    close: () => {
      if (encoder.state !== 'closed') encoder.close();
    },
  };
}

/** Bits per sample of PCM; null where it is encoded. */
export const BITS = { opus: null, pcm: 16, 'pcm-24': 24 } as const;

export function pcmEncoder(
  segment: Segment,
  originUs: number,
  sampleRate: number,
  channels: number,
  bits: 16 | 24,
): Encode {
  let placed = 0;
  const meta: EncodedAudioChunkMetadata = {
    decoderConfig: { codec: `pcm-s${bits}`, sampleRate, numberOfChannels: channels },
  };
  return {
    put: (planes) => {
      const frames = planes[0]?.length ?? 0;
      const bytes = bits / 8;
      const data = new Uint8Array(frames * channels * bytes);
      const most = 2 ** (bits - 1) - 1;
      for (let i = 0; i < frames; i++)
        for (let c = 0; c < channels; c++) {
          const value = Math.round(Math.max(-1, Math.min(1, planes[c]?.[i] ?? 0)) * most);
          // Little endian, two's complement.
          for (let byte = 0; byte < bytes; byte++)
            data[(i * channels + c) * bytes + byte] = (value >> (8 * byte)) & 255;
        }
      const tUs = Math.round(originUs + (placed * 1e6) / sampleRate);
      placed += frames;
      segment.add(
        {
          data,
          key: true,
          tUs,
          durationUs: Math.round((frames * 1e6) / sampleRate),
        },
        meta,
      );
    },
    finish: async () => undefined,
    close: () => undefined,
  };
}
