import type { Rect, Size } from '@/core/base/sizes';
import type { SegmentHead } from '@/core/recording/take';
import type { VideoSettings } from '../messages';
import type { Fault } from './fault';
import { openFraming } from './framing';
import { mustFail, openSlowOutput, slowDown } from './ordered-faults';
import type { Packet, Segment, TakeFiles } from './segment';
import { type OpenFile, openSegmentChain } from './segment-chain';
import type { PacketTimes } from './take-trace';
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
  openFile: OpenFile;
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
  /** A packet came. */
  onPacket: (times: PacketTimes) => void;
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
  const inside = openInside(parts.nowMs);
  const turns = openTurns(options.onFree);
  let [failed, ending] = [false, false];
  let segment: Segment | null = null;
  const fail = (fault: Fault) => {
    if (failed) return;
    failed = true;
    if (!ending) options.onFault(fault);
  };

  const onChunk = (chunk: EncodedVideoChunk, meta?: EncodedVideoChunkMetadata) => {
    // What an encoder still gives after a fault may be torn.
    if (failed) return;
    const spent = inside.left(chunk.timestamp);
    if (spent)
      options.onPacket({
        ...{ tUs: chunk.timestamp, bytes: chunk.byteLength, key: chunk.type === 'key' },
        ...spent,
      });
    segment?.add(packetOf(chunk), declared(meta, settings));
    options.onFree();
  };

  const slowed = openSlowOutput(head.track, onChunk);
  const error = (error: unknown) => fail({ part: 'encoder', error });
  const encoder = parts.newEncoder({ output: slowed.output, error });
  configure(encoder, chosen.encoder, head.track);
  const file = { ...head, index: options.nextIndex() };
  segment = parts.openFile(file, options.files, options.nextIndex, fail);

  const give = (make: () => VideoFrame, keyFrame: boolean) => {
    const fault = made(make, (picture) => {
      if (mustFail(head.track, 'encoder')) encoder.close();
      if (!failed) encoder.encode(picture, { ...chosen.options, keyFrame });
    });
    if (fault) fail(fault);
  };

  return {
    ...{ source, chosen },
    isFree: () => !failed && !ending && turns.isOver() && encoder.encodeQueueSize + slowed.held() < QUEUE,
    queue: () => encoder.encodeQueueSize + slowed.held(),
    ...{ bytes: segment.bytes, unwritten: segment.unwritten },
    encode: (picture, { tUs, keyFrame, repeated, kept }) => {
      inside.entered(tUs, repeated);
      const composed = (frame: VideoFrame) => {
        slowDown(head.track, 'compose');
        inside.composed(tUs);
        return frame;
      };
      const { cut } = framing;
      if (cut) return give(() => composed(cut(picture, tUs, kept)), keyFrame);
      // Bars are drawn into one memory: the next picture waits until this one has left it.
      const own = picture.clone();
      turns.take(() =>
        framing
          .compose(own, tUs, kept)
          .then((frame) => give(() => composed(frame), keyFrame))
          .catch(error)
          .finally(() => own.close()),
      );
    },
    end: async () => {
      ending = true;
      await turns.last();
      const fault = await flushAndClose(encoder, head.track, !failed);
      slowed.flush();
      if (fault) fail(fault);
      await segment.close();
      const { given, repeated } = inside.counts();
      return { encoded: given + segment.lost(), repeated };
    },
  };
}

/** Makes a picture, hands it on and closes it. @returns what went wrong */
function made(make: () => VideoFrame, hand: (picture: VideoFrame) => void): Fault | null {
  let picture: VideoFrame | null = null;
  try {
    picture = make();
    hand(picture);
    return null;
  } catch (error) {
    return { part: 'encoder', error };
  } finally {
    picture?.close();
  }
}

/** Pictures that were given and have not come back, and how long each part of the way took. */
function openInside(nowMs: () => number) {
  const inside = new Map<number, { composeMs: number; givenMs: number; repeated: boolean }>();
  return {
    entered: (tUs: number, repeated: boolean) =>
      inside.set(tUs, { composeMs: 0, givenMs: nowMs(), repeated }),
    composed: (tUs: number) => {
      const [one, givenMs] = [inside.get(tUs), nowMs()];
      if (one) inside.set(tUs, { ...one, composeMs: givenMs - one.givenMs, givenMs });
    },
    /** @returns null for a packet of which no picture is known */
    left: (tUs: number) => {
      const one = inside.get(tUs);
      inside.delete(tUs);
      return one ? { composeMs: one.composeMs, encodeMs: nowMs() - one.givenMs } : null;
    },
    counts: () => {
      const repeated = [...inside.values()].filter((one) => one.repeated).length;
      return { given: inside.size - repeated, repeated };
    },
  };
}

function packetOf(chunk: EncodedVideoChunk): Packet {
  const data = new Uint8Array(chunk.byteLength);
  chunk.copyTo(data);
  return { data, key: chunk.type === 'key', tUs: chunk.timestamp, durationUs: chunk.duration ?? 0 };
}

/** One after the other. @param onOver called after each */
function openTurns(onOver: () => void) {
  let last: Promise<void> | null = null;
  return {
    isOver: () => last === null,
    last: async () => {
      await last;
    },
    take: (work: () => Promise<void>) => {
      const turn = (last ?? Promise.resolve()).then(work).then(() => {
        if (last === turn) last = null;
        onOver();
      });
      last = turn;
    },
  };
}

/** @throws what it says; it is closed then */
function configure(encoder: VideoEncoder, config: VideoEncoderConfig, track: string): void {
  try {
    if (mustFail(track, 'configure'))
      throw new DOMException('The configuration was refused.', 'NotSupportedError');
    encoder.configure(config);
  } catch (error) {
    if (encoder.state !== 'closed') encoder.close();
    throw error;
  }
}

/** Closes an encoder, also one that is closed already. @param isWell whether its last packets are wanted first */
async function flushAndClose(encoder: VideoEncoder, track: string, isWell: boolean): Promise<Fault | null> {
  try {
    if (mustFail(track, 'flush'))
      throw new DOMException('The encoder could not be flushed.', 'EncodingError');
    if (isWell && encoder.state === 'configured') await encoder.flush();
    return null;
  } catch (error) {
    return { part: 'encoder', error };
  } finally {
    if (encoder.state !== 'closed') encoder.close();
  }
}
