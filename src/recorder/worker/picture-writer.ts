import { newSegmentId } from '@/core/base/ids';
import { type Size, sameSize } from '@/core/base/sizes';
import type { Detail } from '@/core/recording/less-detail';
import { afterFailure, type Replacement } from '@/core/recording/replacement';
import type { SegmentHead } from '@/core/recording/take';
import type { VideoSettings } from '../messages';
import { type EncodedPictures, openEncodedPictures, type PictureParts } from './encoded-pictures';
import type { Fault } from './fault';
import type { Recording } from './recording';
import type { SourceClock } from './source-clock';
import { type ChosenVideo, chooseVideo, lesser } from './video-config';

/**
 * Writes a picture track as one encoded segment after the other: a new one for another size, for less detail, and for an encoder or a
 * file that failed.
 */
export type PictureWriter = {
  /** Chooses the encoder before it is needed; a size that cannot be encoded is told before anything is recorded. */
  readonly prepare: (size: Size) => void;
  /** The segment for pictures of this size, now; null while there is none. `onReady` is called when there is. */
  readonly forSize: (size: Size) => EncodedPictures | null;
  /** Begins a new segment with less detail. */
  readonly lower: (detail: Detail) => void;
  readonly current: () => EncodedPictures | null;
  readonly detail: () => Detail;
  /** What encodes now, or would. */
  readonly chosen: () => ChosenVideo | null;
  readonly bytes: () => number;
  readonly unwritten: () => number;
  /** Whether it has given up: everything it tried has failed. */
  readonly hasEnded: () => boolean;
  /** Resolves when no segment is being exchanged. */
  readonly settled: () => Promise<void>;
  readonly close: () => Promise<void>;
};

/** What was done about a fault. */
export type Mended = { fault: Fault; by: Replacement };

type Options = {
  role: 'screen' | 'camera';
  settings: VideoSettings;
  clock: SourceClock;
  recording: () => Recording | null;
  nowUs: () => number;
  /** Take time at which a segment that begins now begins. */
  startUs: () => number;
  onPacket: (tookMs: number) => void;
  /** The encoder has become free, or there is a segment again. */
  onFree: () => void;
  /** A segment has ended without so many of its pictures. */
  onLost: (lost: { encoded: number; repeated: number }) => void;
  /** A fault was met: a new segment has begun, or there will be none. */
  onMended: (mended: Mended) => void;
  onProblem: (error: unknown) => void;
};

const sameDetail = (a: Detail, b: Detail) => a.hint === b.hint && a.scale === b.scale;

/** What the rig asks for, or what is left of it after failures. */
function afterAll(settings: VideoSettings, way: Replacement): VideoSettings {
  if (way === 'same') return settings;
  const safer: VideoSettings = { ...settings, hardware: 'prefer-software', level: null };
  if (way === 'software' || !settings.otherCodec) return safer;
  return { ...safer, codec: settings.otherCodec, profile: 'automatic', rateControl: 'average' };
}

export function openPictureWriter(
  options: Options,
  parts?: PictureParts,
  choose: typeof chooseVideo = chooseVideo,
): PictureWriter {
  const { role, settings, clock } = options;
  let current: EncodedPictures | null = null;
  let detail: Detail = { hint: true, scale: 1 };
  let way: Replacement = 'same';
  let prepared: { size: Size; chosen: ChosenVideo } | null = null;
  let preparing: Size | null = null;
  let changing: Promise<void> | null = null;
  let closed = false;
  let closedBytes = 0;
  const failuresUs: number[] = [];

  const chooseFor = (size: Size) => choose(role, size, lesser(afterAll(settings, way), size, detail));

  const begin = (size: Size, chosen: ChosenVideo) => {
    const take = options.recording();
    if (!take) return;
    const { offsetUs, how } = clock.offset();
    const head: Omit<SegmentHead, 'index'> = {
      id: newSegmentId(),
      track: role,
      startUs: Math.max(0, Math.round(options.startUs())),
      configuration: {
        type: 'video',
        codec: chosen.encoder.codec,
        width: chosen.encoder.width,
        height: chosen.encoder.height,
        bitrateKbps: chosen.bitrateKbps,
        textHint: chosen.textHint,
        sourceWidth: size.width,
        sourceHeight: size.height,
      },
      encoderDelayUs: 0,
      offsetUs,
      offsetHow: how,
      continues: false,
    };
    current = openEncodedPictures(
      {
        ...{ head, source: size, chosen, settings: afterAll(settings, way), files: take.files },
        nextIndex: () => take.nextIndex(role),
        onPacket: options.onPacket,
        onFree: options.onFree,
        onFault: (fault) => exchange(size, fault),
      },
      parts,
    );
  };

  const end = async () => {
    const ending = current;
    if (!ending) return;
    const lost = await ending.end();
    closedBytes += ending.bytes();
    current = null;
    options.onLost(lost);
  };

  /**
   * Ends the present segment and begins another, in ever other ways until one works or all have failed.
   * @param met the fault that is the reason for it
   * @returns what was done about the last fault that was met
   */
  const replace = async (size: Size, met?: Fault): Promise<Mended | null> => {
    let fault = met;
    for (;;) {
      if (fault) {
        failuresUs.push(options.nowUs());
        way = afterFailure(failuresUs, settings.otherCodec !== undefined);
      }
      await end();
      if (closed) return null;
      if (way === 'end') return fault ? { fault, by: way } : null;
      try {
        begin(size, await chooseFor(size));
        return fault ? { fault, by: way } : null;
      } catch (error) {
        fault = { part: 'encoder', error };
      }
    }
  };

  const exchange = (size: Size, met?: Fault) => {
    if (closed) return;
    if (changing) {
      // The new one has failed before it was in use.
      if (met) void changing.then(() => exchange(size, met));
      return;
    }
    changing = replace(size, met)
      .catch((error) => {
        options.onProblem(error);
        return null;
      })
      .then((mended) => {
        changing = null;
        if (mended) options.onMended(mended);
        options.onFree();
      });
  };

  return {
    prepare: (size) => {
      if (preparing && sameSize(preparing, size)) return;
      preparing = size;
      chooseFor(size).then((chosen) => {
        prepared = { size, chosen };
      }, options.onProblem);
    },
    forSize: (size) => {
      if (way === 'end' || changing || closed) return null;
      if (current && sameSize(current.source, size)) return current;
      const ready = !current && prepared && sameSize(prepared.size, size) ? prepared : null;
      // The usual case, chosen while the source was only watched, begins in this very moment.
      if (ready)
        try {
          begin(size, ready.chosen);
        } catch (error) {
          exchange(size, { part: 'encoder', error });
        }
      else exchange(size);
      return changing ? null : current;
    },
    lower: (next) => {
      if (sameDetail(detail, next)) return;
      detail = next;
      if (current) exchange(current.source);
    },
    current: () => (changing ? null : current),
    detail: () => detail,
    chosen: () => current?.chosen ?? prepared?.chosen ?? null,
    bytes: () => closedBytes + (current?.bytes() ?? 0),
    unwritten: () => current?.unwritten() ?? 0,
    hasEnded: () => way === 'end',
    settled: async () => {
      while (changing) await changing;
    },
    close: async () => {
      while (changing) await changing;
      closed = true;
      await end();
    },
  };
}
