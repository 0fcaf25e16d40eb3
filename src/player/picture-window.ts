import type { EncodedPacketSink, VideoSample } from 'mediabunny';
import type { Size } from '@/core/base/sizes';
import type { PictureDecoder } from './picture-decoder';

/** Decoded pictures about a time, so that going to and fro there shows each of them at once. */
export type PictureWindow = {
  /**
   * The picture of a time; its caller closes it. Null when something newer was asked.
   * @param onDecode called when it is not here already: whether to decode it from the keyframe before it
   * @param onKey gets that keyframe on the way, when it may be another picture; its receiver closes it
   * @param afterKey what comes after the keyframe is decoded when this resolves
   */
  readonly at: (
    seconds: number,
    onDecode: () => boolean,
    onKey: (key: VideoSample) => void,
    afterKey?: Promise<unknown>,
  ) => Promise<VideoSample | null>;
  /** Decodes what lies about a time while nothing else is wished, and lets go of what lies farther. */
  readonly settle: (seconds: number, wanted: () => boolean) => Promise<void>;
  readonly clear: () => void;
  readonly close: () => void;
};

/** Where a window has its pictures from. */
export type PictureSource = {
  readonly decoder: PictureDecoder;
  readonly packets: Pick<
    EncodedPacketSink,
    'getPacket' | 'getFirstPacket' | 'getNextPacket' | 'getKeyPacket'
  >;
  /** How many pictures may be kept. */
  readonly most: number;
};

/** On each side of the time, seconds: as far as a hand goes to and fro that looks for one picture. */
const REACH_S = 1;
/** What lies farther from the time is not kept. */
const MOST_REACH_S = 1.5 * REACH_S;
/** Decoded pictures are large: 1920×1080 takes 3 MB. */
const MOST_BYTES = 256e6;

/** How many pictures of a size may be kept. */
export const mostOf = ({ width, height }: Size): number =>
  Math.max(4, Math.floor(MOST_BYTES / (width * height * 1.5)));

const keyOf = ({ timestamp }: { timestamp: number }) => Math.round(timestamp * 1e6);

/** Pictures that are kept, no more than so many. */
function openSampleCache(most: number) {
  /** By the time of its packet in µs, which is the sample's too. */
  const kept = new Map<number, VideoSample>();
  return {
    kept,
    keep: (sample: VideoSample) => {
      kept.get(keyOf(sample))?.close();
      kept.set(keyOf(sample), sample);
    },
    /** Lets go of what lies farthest from a time. */
    trim: (about: number) => {
      const middle = Math.round(about * 1e6);
      const near = [...kept.keys()].sort((a, b) => Math.abs(a - middle) - Math.abs(b - middle));
      near.forEach((timestamp, i) => {
        if (i < most && Math.abs(timestamp - middle) <= 1e6 * MOST_REACH_S) return;
        kept.get(timestamp)?.close();
        kept.delete(timestamp);
      });
    },
  };
}

export function openPictureWindow({ decoder, packets, most }: PictureSource): PictureWindow {
  const { kept, keep, trim } = openSampleCache(most);

  const packetAt = async (seconds: number) =>
    (await packets.getPacket(seconds, { metadataOnly: true })) ??
    packets.getFirstPacket({ metadataOnly: true });
  const keyAt = async (seconds: number) => (await packets.getKeyPacket(seconds)) ?? packets.getFirstPacket();

  /** The first and the last picture within a time that are not kept. */
  const missingWithin = async (from: number, to: number, wanted: () => boolean) => {
    let missing = null as { first: number; last: number } | null;
    let packet = await packetAt(from);
    while (packet && packet.timestamp <= to && wanted()) {
      const { timestamp } = packet;
      if (!kept.has(keyOf(packet))) missing = { first: missing?.first ?? timestamp, last: timestamp };
      packet = await packets.getNextPacket(packet, { metadataOnly: true });
    }
    return missing;
  };

  /** The picture of a time if it is kept. Where none is kept about it, the file is not asked: that would be a way to the server. */
  const knownAt = async (seconds: number): Promise<VideoSample | null> => {
    const us = seconds * 1e6;
    if (![...kept.keys()].some((each) => Math.abs(each - us) <= 1e6 * MOST_REACH_S)) return null;
    const packet = await packetAt(seconds);
    return (packet && kept.get(keyOf(packet))) ?? null;
  };

  const clear = () => {
    for (const sample of kept.values()) sample.close();
    kept.clear();
  };

  return {
    at: async (seconds, onDecode, onKey, afterKey) => {
      const known = await knownAt(seconds);
      if (known) return known.clone();
      const key = await keyAt(seconds);
      if (!key || !onDecode()) return null;
      let newest = null as VideoSample | null;
      // A decoder whose pictures are all kept needs fresh memory for each: while somebody waits it gets them back at once.
      const stretch = { fromSeconds: seconds, toSeconds: seconds, afterKey };
      let isThere = false;
      try {
        isThere = await decoder.decode(key, stretch, (sample, isLast) => {
          if (!newest && !isLast) onKey(sample.clone());
          newest?.close();
          newest = sample;
        });
      } finally {
        if (!isThere) newest?.close();
      }
      if (!newest || !isThere) return null;
      keep(newest);
      trim(seconds);
      return newest.clone();
    },
    settle: async (seconds, wanted) => {
      trim(seconds);
      const [from, to] = [Math.max(0, seconds - REACH_S), seconds + REACH_S];
      const missing = await missingWithin(from, to, wanted);
      if (!missing || !wanted()) return;
      const key = await keyAt(missing.first);
      if (!key || !wanted()) return;
      await decoder.decode(key, { fromSeconds: from, toSeconds: missing.last }, (sample) => {
        if (sample.timestamp >= from) keep(sample);
        else sample.close();
      });
      trim(seconds);
    },
    clear,
    close: () => {
      decoder.close();
      clear();
    },
  };
}
