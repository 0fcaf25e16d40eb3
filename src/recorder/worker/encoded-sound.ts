import type { SegmentHead } from '@/core/recording/take';
import type { SoundSettings } from '../messages';
import type { Fault } from './fault';
import { mustFail } from './ordered-faults';
import type { Segment, TakeFiles } from './segment';
import { type OpenFile, openSegmentChain } from './segment-chain';
import { BITS, type Encode, opusEncoder, pcmEncoder } from './sound-encoder';

/** One sound encoder and the segment that it fills. It can be thrown away and made again; it never outlives its first fault. */
export type EncodedSound = {
  /** @returns false when it has failed and took nothing */
  readonly put: (planes: Float32Array[]) => boolean;
  readonly bytes: () => number;
  readonly unwritten: () => number;
  /** Ends at the last packet that can be had; never rejects. */
  readonly end: () => Promise<void>;
};

/** What it is made of; tests put their own in the place of each. */
export type SoundParts = {
  opus: typeof opusEncoder;
  openFile: OpenFile;
};
const REAL: SoundParts = { opus: opusEncoder, openFile: openSegmentChain };

export type SoundShape = { sampleRate: number; channels: number };

type Options = {
  head: Omit<SegmentHead, 'index' | 'encoderDelayUs' | 'configuration'>;
  sound: Pick<SoundSettings, 'codec' | 'kbps'>;
  shape: SoundShape;
  files: TakeFiles;
  nextIndex: () => number;
  /** Told once, and not while it ends. */
  onFault: (fault: Fault) => void;
};

/** @throws what the encoder says of a configuration that it refuses at once; no segment is begun then */
export function openEncodedSound(options: Options, parts: SoundParts = REAL): EncodedSound {
  const { head, sound, shape } = options;
  const { sampleRate, channels } = shape;
  const bits = BITS[sound.codec];
  let segment: Segment | null = null;
  let failed = false;
  let ending = false;
  const fail = (fault: Fault) => {
    if (failed) return;
    failed = true;
    if (!ending) options.onFault(fault);
  };
  const open = (encoderDelayUs: number): Segment => {
    segment = parts.openFile(
      {
        ...head,
        index: options.nextIndex(),
        encoderDelayUs,
        configuration: {
          type: 'audio',
          codec: bits ? `pcm-s${bits}` : 'opus',
          sampleRate,
          channels,
          bitrateKbps: bits ? Math.round((sampleRate * bits * channels) / 1000) : sound.kbps,
        },
      },
      options.files,
      options.nextIndex,
      fail,
    );
    return segment;
  };
  if (mustFail(head.track, 'configure'))
    throw new DOMException('The configuration was refused.', 'NotSupportedError');
  const encode: Encode = bits
    ? pcmEncoder(open(0), head.startUs, sampleRate, channels, bits)
    : parts.opus(open, head.startUs, sampleRate, channels, sound.kbps, (error) =>
        fail({ part: 'encoder', error }),
      );
  return {
    put: (planes) => {
      if (failed) return false;
      try {
        if (mustFail(head.track, 'encoder')) encode.close();
        encode.put(planes);
      } catch (error) {
        fail({ part: 'encoder', error });
      }
      return !failed;
    },
    bytes: () => segment?.bytes() ?? 0,
    unwritten: () => segment?.unwritten() ?? 0,
    end: async () => {
      ending = true;
      try {
        if (mustFail(head.track, 'flush'))
          throw new DOMException('The encoder could not be emptied.', 'EncodingError');
        if (!failed) await encode.finish();
      } catch (error) {
        fail({ part: 'encoder', error });
      }
      encode.close();
      await segment?.close();
    },
  };
}
