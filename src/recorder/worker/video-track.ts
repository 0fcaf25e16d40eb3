import { framesPerSecond } from '@/core/base/rational';
import { sameSize } from '@/core/base/sizes';
import type { Region } from '@/core/image/region';
import { fitted } from '@/core/layout/fit';
import { pictureShare } from '@/core/layout/picture-share';
import type { PacingAct } from '@/core/recording/pacing';
import type { FrameLedger, PictureShare, TakeEvent } from '@/core/recording/take';
import type { VideoFigures, VideoSettings } from '../messages';
import type { Recovery } from './fault';
import { type Following, openFollowing } from './following';
import { type FrameAccount, openFrameAccount } from './frame-account';
import { openGivingWay } from './giving-way';
import { openKeyRhythm } from './key-rhythm';
import { openPictureLine, type PictureLine } from './picture-line';
import { openPictureSource, type PictureSource, sizeOf } from './picture-source';
import { openPictureWriter, type PictureWriter } from './picture-writer';
import { openRecentRate } from './recent-rate';
import type { Recording } from './recording';
import type { RehearsalNotes } from './rehearsal-notes';
import type { SourceClock } from './source-clock';

export type VideoTrack = {
  readonly role: 'screen' | 'camera';
  readonly clock: SourceClock;
  readonly source: SeenSource;
  readonly start: (recording: Recording) => void;
  readonly resume: () => void;
  /** Encodes what is due; called on a timer as well. */
  readonly pump: () => void;
  /** Ends the track's part in the take. */
  readonly stop: (endUs: number) => Promise<void>;
  readonly release: () => void;
  readonly figures: () => VideoFigures;
  readonly ledger: () => FrameLedger;
  /** Where in the picture an event was; nothing where it has no place, or one outside. */
  readonly placeOf: (data: TakeEvent['data']) => Partial<PictureShare>;
  readonly bytes: () => number;
  readonly unwritten: () => number;
};

/** A source for those who only look at it. */
export type SeenSource = Pick<PictureSource, 'newest' | 'serial'>;

type Options = {
  role: 'screen' | 'camera';
  readable: ReadableStream<VideoFrame>;
  settings: VideoSettings;
  clock: SourceClock;
  /** Timestamps carry sequence numbers. */
  sequenced: boolean;
  /** A real device gives it, which wants its pictures back at once. */
  captured: boolean;
  nowUs: () => number;
  /** Where the pointer is in the source; null where nobody knows. */
  pointer: () => { x: number; y: number } | null;
  /** The region that follows it has moved. */
  onRegion: (region: Region) => void;
  onPicture: (source: SeenSource) => void;
  onRecovery: (recovery: Recovery) => void;
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

/** One picture track: its source reads, its line says which picture is encoded when, its writer encodes. */
export function openVideoTrack(options: Options): VideoTrack {
  const { role, settings, clock, nowUs } = options;
  const account = openFrameAccount(options.sequenced);
  const notes = () => line.recording()?.rehearsal ?? null;
  const line = openPictureLine(settings.frameRate, account, nowUs, (arrival) =>
    notes()?.trace.frames[role].arrived(arrival),
  );
  const following = openFollowing(settings, options.pointer, options.onRegion);
  const lessDetail = openLessDetail(settings, nowUs);
  const writer = openPictureWriter({
    ...{ role, settings, clock, nowUs, onProblem: options.onProblem },
    ...{ recording: line.recording, startUs: line.startUs, onLost: line.lost },
    onPacket: (times) => {
      account.encoded(times.composeMs + times.encodeMs);
      notes()?.trace.frames[role].packet(times);
    },
    onFree: () => pump(),
    onRecovery: (recovery) => {
      if (recovery.by === 'end') line.end();
      else if (line.isRunning()) encoding.encode(line.again());
      options.onRecovery(recovery);
    },
  });
  const source = openPictureSource({
    ...options,
    onArrival: (picture, readAtUs) => {
      if (!line.recording()) writer.prepare(sizeOf(picture));
      const monotonicUs = clock.toMonotonic(picture.timestamp, readAtUs);
      return line.arrive({ timestampUs: picture.timestamp, monotonicUs });
    },
    onHeld: () => {
      options.onPicture(source);
      pump();
    },
  });
  const encoding = openEncoding({ role, source, writer, following, settings, nowUs, notes });

  const pump = () => {
    if (!line.isRunning()) return;
    const newest = source.newest();
    if (newest && line.isWaiting()) {
      const less = lessDetail(line, writer);
      if (less) writer.lower(less);
      if (!writer.forSize(sizeOf(newest))) return;
    }
    encoding.encode(line.next(writer.current()?.isFree() ?? false));
  };

  return {
    ...{ role, clock, source, pump, bytes: writer.bytes, unwritten: writer.unwritten },
    start: (next) => {
      line.start(next, heldBy(source));
      pump();
    },
    resume: () => {
      line.resume(heldBy(source));
      pump();
    },
    stop: async (endUs) => {
      if (!line.recording()) return;
      await writer.settled();
      for (const act of line.finish(endUs)) await encoding.encodeLast(act);
      await writer.close();
    },
    release: () => {
      source.release();
      encoding.release();
    },
    placeOf: (data) => placeIn(data, { ...settings, aim: following.region() ?? settings.aim }, source),
    figures: () =>
      figuresOf({ account, following, line, source, writer, settings, achievedFps: encoding.fps() }),
    ledger: () => ({
      askedFps: framesPerSecond(settings.frameRate),
      ...line.counts(),
      ...account.ledger(),
      ...account.encodeMs('all'),
    }),
  };
}

function heldBy(source: PictureSource): { timestampUs: number } | null {
  const newest = source.newest();
  return newest && { timestampUs: newest.timestamp };
}

/** Where a place that an event tells is in the picture that is made of the source now. */
function placeIn(
  { x, y }: TakeEvent['data'],
  settings: VideoSettings,
  source: PictureSource,
): Partial<PictureShare> {
  const newest = source.newest();
  if (typeof x !== 'number' || typeof y !== 'number' || !newest) return {};
  const at = pictureShare({ x, y }, fitted(settings, sizeOf(newest)));
  return at ? { pictureX: at.x, pictureY: at.y } : {};
}

/** What to encode with when the encoder is too slow and the rig gives up detail for it; null: as before. */
function openLessDetail({ whenBehind }: VideoSettings, nowUs: () => number) {
  const giveWay = openGivingWay(nowUs);
  return (line: PictureLine, writer: PictureWriter) => {
    if (whenBehind !== 'detail' || !writer.current()) return null;
    const textHint = writer.chosen()?.textHint ?? false;
    const detail = writer.detail();
    return giveWay(line.counts(), { ...detail, hint: detail.hint && textHint });
  };
}

type EncodingOptions = {
  source: PictureSource;
  writer: PictureWriter;
  following: Following;
  settings: VideoSettings;
  nowUs: () => number;
  role: 'screen' | 'camera';
  notes: () => RehearsalNotes | null;
};

/** Gives pictures to the writer, and keeps the last one for as long as it may have to be shown again. */
function openEncoding({ role, source, writer, following, settings, nowUs, notes }: EncodingOptions) {
  const keys = openKeyRhythm(settings);
  const encoded = openRecentRate();
  let shown: VideoFrame | null = null;
  const show = (next: VideoFrame | null) => {
    shown?.close();
    shown = next;
  };
  const encode = (act: PacingAct) => {
    if (act.act === 'wait') return;
    const newest = source.newest();
    const trace = notes()?.trace.frames[role];
    if (act.act === 'encode') trace?.given(act.tUs);
    else trace?.repeated(act.tUs);
    if (act.act === 'encode' && newest) show(newest.clone());
    const into = writer.current();
    if (!shown || !into || !sameSize(into.source, sizeOf(shown))) return;
    encoded.count(nowUs());
    const kept = following.kept(into.source, nowUs());
    if (act.act === 'encode' && role === 'screen')
      notes()?.samples.offer(act.tUs, shown, into.chosen.fitted, kept);
    into.encode(shown, {
      tUs: act.tUs,
      keyFrame: keys.isDue(act.tUs, into),
      repeated: act.act === 'repeat',
      kept,
    });
  };
  return {
    encode,
    /** At the end of a take, where a segment may have to be begun for it. */
    encodeLast: async (act: PacingAct) => {
      const newest = source.newest();
      if (act.act === 'encode' && newest && !writer.forSize(sizeOf(newest))) await writer.settled();
      encode(act);
    },
    fps: () => encoded.perSecond(nowUs()),
    release: () => show(null),
  };
}

type Parts = {
  account: FrameAccount;
  following: Following;
  line: PictureLine;
  source: PictureSource;
  writer: PictureWriter;
  settings: VideoSettings;
  achievedFps: number;
};

function figuresOf({ account, following, line, source, writer, settings, achievedFps }: Parts): VideoFigures {
  const { frameRate, speed } = settings;
  const chosen = writer.chosen();
  const newest = source.newest();
  return {
    askedFps: (framesPerSecond(frameRate) * speed.num) / speed.den,
    ...line.counts(),
    achievedFps,
    arrivedFps: source.arrivedFps(),
    ...account.encodeMs('last'),
    queue: (writer.current()?.queue() ?? 0) + (line.isWaiting() ? 1 : 0),
    bytes: writer.bytes(),
    source: newest && sizeOf(newest),
    region: following.region(),
    picture: chosen && { width: chosen.encoder.width, height: chosen.encoder.height },
    textHint: chosen?.textHint ?? null,
    hintReason: chosen?.reason ?? null,
  };
}
