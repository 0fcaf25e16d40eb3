import { newSegmentId } from '@/core/base/ids';
import { type Size, sameSize } from '@/core/base/sizes';
import type { Detail } from '@/core/recording/less-detail';
import type { SegmentHead } from '@/core/recording/take';
import type { VideoSettings } from '../messages';
import { type EncodedPictures, openEncodedPictures, type PictureParts } from './encoded-pictures';
import { openEncodingChoice } from './encoding-choice';
import type { Fault, Recovery } from './fault';
import type { Recording } from './recording';
import type { SourceClock } from './source-clock';
import type { PacketTimes } from './take-trace';
import { type ChosenVideo, chooseVideo } from './video-config';

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
  /** Resolves when no segment is being exchanged. */
  readonly settled: () => Promise<void>;
  readonly close: () => Promise<void>;
};

type Options = {
  role: 'screen' | 'camera';
  settings: VideoSettings;
  clock: SourceClock;
  recording: () => Recording | null;
  nowUs: () => number;
  /** Take time at which a segment that begins now begins. */
  startUs: () => number;
  onPacket: (times: PacketTimes) => void;
  /** The encoder has become free, or there is a segment again. */
  onFree: () => void;
  /** A segment has ended without so many of its pictures. */
  onLost: (lost: { encoded: number; repeated: number }) => void;
  /** A fault was met: a new segment has begun, or there will be none. */
  onRecovery: (recovery: Recovery) => void;
  onProblem: (error: unknown) => void;
};

/** One change of segments at a time. */
function openChanges(onProblem: (error: unknown) => void) {
  let changing: Promise<void> | null = null;
  return {
    isOn: () => changing !== null,
    /** @param change what it returns is done when nothing is being changed any more */
    make: (change: () => Promise<() => void>) => {
      changing = change()
        .catch((error) => () => onProblem(error))
        .then((after) => {
          changing = null;
          after();
        });
    },
    settled: async () => {
      while (changing) await changing;
    },
  };
}

/** The segment that is written now, and the bytes of all before it. */
function openCurrent(options: Options, parts?: PictureParts) {
  const { role, clock } = options;
  let current: EncodedPictures | null = null;
  let closedBytes = 0;
  return {
    get: () => current,
    begin: (size: Size, chosen: ChosenVideo, settings: VideoSettings, onFault: (fault: Fault) => void) => {
      const take = options.recording();
      if (!take) return;
      const { offsetUs, how } = clock.offset();
      const startUs = Math.max(0, Math.round(options.startUs()));
      current = openEncodedPictures(
        {
          ...{ source: size, chosen, settings, files: take.files },
          head: {
            ...{ id: newSegmentId(), track: role, startUs, configuration: configurationOf(size, chosen) },
            ...{ encoderDelayUs: 0, offsetUs, offsetHow: how, continues: false },
          },
          nextIndex: () => take.nextIndex(role),
          ...{ onPacket: options.onPacket, onFree: options.onFree, onFault },
        },
        parts,
      );
    },
    end: async () => {
      const ending = current;
      if (!ending) return;
      const lost = await ending.end();
      closedBytes += ending.bytes();
      current = null;
      options.onLost(lost);
    },
    bytes: () => closedBytes + (current?.bytes() ?? 0),
  };
}

const configurationOf = (size: Size, chosen: ChosenVideo): SegmentHead['configuration'] => ({
  type: 'video',
  codec: chosen.encoder.codec,
  width: chosen.encoder.width,
  height: chosen.encoder.height,
  bitrateKbps: chosen.bitrateKbps,
  textHint: chosen.textHint,
  sourceWidth: size.width,
  sourceHeight: size.height,
});

export function openPictureWriter(
  options: Options,
  parts?: PictureParts,
  choose: typeof chooseVideo = chooseVideo,
): PictureWriter {
  const choice = openEncodingChoice(options.role, options.settings, choose);
  const segment = openCurrent(options, parts);
  const changes = openChanges(options.onProblem);
  let closed = false;

  const begin = (size: Size, chosen: ChosenVideo) =>
    segment.begin(size, chosen, choice.settings(), (fault) => exchange(size, fault));

  /** Ends the present segment and begins another, in ever other ways until one works or all have failed. @param met why */
  const replace = async (size: Size, met?: Fault): Promise<Recovery | null> => {
    let fault = met;
    for (;;) {
      const by = fault ? choice.countFailure(options.nowUs()) : choice.replacement();
      await segment.end();
      if (closed) return null;
      if (by === 'end') return fault ? { fault, by } : null;
      try {
        begin(size, await choice.forSize(size));
        return fault ? { fault, by } : null;
      } catch (error) {
        fault = { part: 'encoder', error };
      }
    }
  };

  const exchange = (size: Size, met?: Fault) => {
    if (closed) return;
    if (!changes.isOn())
      changes.make(async () => {
        const recovery = await replace(size, met);
        return () => {
          if (recovery) options.onRecovery(recovery);
          options.onFree();
        };
      });
    // The new one has failed before it was in use.
    else if (met) void changes.settled().then(() => exchange(size, met));
  };

  return {
    prepare: (size) => choice.prepare(size, options.onProblem),
    forSize: (size) => {
      if (choice.replacement() === 'end' || changes.isOn() || closed) return null;
      const current = segment.get();
      if (current && sameSize(current.source, size)) return current;
      const ready = current ? null : choice.prepared(size);
      // The usual case, chosen while the source was only watched, begins in this very moment.
      if (ready)
        try {
          begin(size, ready);
        } catch (error) {
          exchange(size, { part: 'encoder', error });
        }
      else exchange(size);
      return changes.isOn() ? null : segment.get();
    },
    lower: (detail) => {
      const current = segment.get();
      if (choice.lower(detail) && current) exchange(current.source);
    },
    current: () => (changes.isOn() ? null : segment.get()),
    detail: choice.detail,
    chosen: () => segment.get()?.chosen ?? choice.prepared(),
    bytes: segment.bytes,
    unwritten: () => segment.get()?.unwritten() ?? 0,
    settled: changes.settled,
    close: async () => {
      await changes.settled();
      closed = true;
      await segment.end();
    },
  };
}
