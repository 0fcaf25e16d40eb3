import type { Rect, Size } from '@/core/base/sizes';
import type { SegmentHead } from '@/core/recording/take';
import type { VideoSettings } from '../messages';
import type { Fault } from './fault';
import { openFraming } from './framing';
import { mustFail } from './ordered-faults';
import type { Packet, Segment, TakeFiles } from './segment';
import { openSegmentChain } from './segment-chain';
import { type ChosenVideo, declared } from './video-config';

/** One encoder and the segment that it fills. It can be thrown away and made again; it never outlives its first fault. */
export type EncodedPictures = {
  /** Size of the source's pictures that it takes. */
  readonly source: Size;
  readonly chosen: ChosenVideo;
  /** Whether it would start on a picture at once. */
  readonly isFree: () => boolean;
  /** Pictures inside the encoder. */
  readonly queue: () => number;
  /** The picture stays its owner's. @param kept the part of it that is encoded, where that moves */
  readonly encode: (
    picture: VideoFrame,
    how: { tUs: number; keyFrame: boolean; repeated: boolean; kept?: Rect },
  ) => void;
  readonly bytes: () => number;
  readonly unwritten: () => number;
  /** Ends at the last packet that can be had; never rejects. @returns how many pictures never became packets */
  readonly end: () => Promise<{ encoded: number; repeated: number }>;
};

/** What it is made of; tests put their own in the place of each. */
export type PictureParts = {
  newEncoder: (init: VideoEncoderInit) => VideoEncoder;
  openFile: (
    head: SegmentHead,
    files: TakeFiles,
    nextIndex: () => number,
    onFault: (fault: Fault) => void,
  ) => Segment;
  openFraming: typeof openFraming;
  nowMs: () => number;
};
const REAL: PictureParts = {
  newEncoder: (init) => new VideoEncoder(init),
  openFile: openSegmentChain,
  openFraming,
  nowMs: () => performance.now(),
};

type Options = {
  head: Omit<SegmentHead, 'index'>;
  source: Size;
  chosen: ChosenVideo;
  settings: VideoSettings;
  files: TakeFiles;
  nextIndex: () => number;
  /** A packet came. @param tookMs since its picture was given to the encoder */
  onPacket: (tookMs: number) => void;
  /** It may have become free. */
  onFree: () => void;
  /** Told once, and not while it ends. */
  onFault: (fault: Fault) => void;
};

/** More than one picture inside the encoder only adds delay; fewer would let it wait for us. */
const QUEUE = 2;

/** @throws what the encoder says of a configuration that it refuses at once; no segment is begun then */
export function openEncodedPictures(options: Options, parts: PictureParts = REAL): EncodedPictures {
  const { head, source, chosen, settings } = options;
  const framing = parts.openFraming(chosen.fitted, settings.filter);
  /** What was given and has not come back. */
  const inside = new Map<number, { givenMs: number; repeated: boolean }>();
  let composing: Promise<void> | null = null;
  let failed = false;
  let ending = false;
  let segment: Segment | null = null;

  const fail = (fault: Fault) => {
    if (failed) return;
    failed = true;
    if (!ending) options.onFault(fault);
  };

  const onChunk = (chunk: EncodedVideoChunk, meta?: EncodedVideoChunkMetadata) => {
    // What an encoder still gives after a fault may be torn.
    if (failed) return;
    const given = inside.get(chunk.timestamp);
    inside.delete(chunk.timestamp);
    if (given) options.onPacket(parts.nowMs() - given.givenMs);
    segment?.add(packetOf(chunk), declared(meta, settings));
    options.onFree();
  };

  const encoder = parts.newEncoder({
    output: onChunk,
    error: (error) => fail({ part: 'encoder', error }),
  });
  try {
    if (mustFail(head.track, 'configure'))
      throw new DOMException('The configuration was refused.', 'NotSupportedError');
    encoder.configure(chosen.encoder);
  } catch (error) {
    if (encoder.state !== 'closed') encoder.close();
    throw error;
  }
  segment = parts.openFile({ ...head, index: options.nextIndex() }, options.files, options.nextIndex, fail);

  const give = (make: () => VideoFrame, tUs: number, keyFrame: boolean, repeated: boolean) => {
    let picture: VideoFrame | null = null;
    inside.set(tUs, { givenMs: parts.nowMs(), repeated });
    try {
      picture = make();
      if (mustFail(head.track, 'encoder')) encoder.close();
      if (!failed) encoder.encode(picture, { ...chosen.options, keyFrame });
    } catch (error) {
      fail({ part: 'encoder', error });
    } finally {
      picture?.close();
    }
  };

  return {
    source,
    chosen,
    isFree: () => !failed && !ending && composing === null && encoder.encodeQueueSize < QUEUE,
    queue: () => encoder.encodeQueueSize,
    encode: (picture, { tUs, keyFrame, repeated, kept }) => {
      const { cut } = framing;
      if (cut) return give(() => cut(picture, tUs, kept), tUs, keyFrame, repeated);
      // Bars are drawn into one memory: the next picture waits until this one has left it.
      const own = picture.clone();
      const turn = (composing ?? Promise.resolve())
        .then(() => framing.compose(own, tUs, kept))
        .then(
          (composed) => give(() => composed, tUs, keyFrame, repeated),
          (error) => fail({ part: 'encoder', error }),
        )
        .finally(() => {
          own.close();
          if (composing === turn) composing = null;
          options.onFree();
        });
      composing = turn;
    },
    bytes: () => segment.bytes(),
    unwritten: () => segment.unwritten(),
    end: async () => {
      ending = true;
      await composing;
      try {
        if (mustFail(head.track, 'flush'))
          throw new DOMException('The encoder could not be emptied.', 'EncodingError');
        if (!failed && encoder.state === 'configured') await encoder.flush();
      } catch (error) {
        fail({ part: 'encoder', error });
      }
      if (encoder.state !== 'closed') encoder.close();
      await segment.close();
      const lost = [...inside.values()];
      const repeated = lost.filter((one) => one.repeated).length;
      return { encoded: lost.length - repeated + segment.lost(), repeated };
    },
  };
}

function packetOf(chunk: EncodedVideoChunk): Packet {
  const data = new Uint8Array(chunk.byteLength);
  chunk.copyTo(data);
  return { data, key: chunk.type === 'key', tUs: chunk.timestamp, durationUs: chunk.duration ?? 0 };
}
