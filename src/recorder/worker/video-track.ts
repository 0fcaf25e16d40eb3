import { newBell } from '@/core/base/bell';
import { newSegmentId } from '@/core/base/ids';
import { percentile } from '@/core/base/percentile';
import { framesPerSecond, frameTimeUs } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import type { Region } from '@/core/image/region';
import { type Detail, isBehind, lessDetail } from '@/core/recording/less-detail';
import {
  arrive,
  decide,
  finishPacing,
  type Pacing,
  type PacingAct,
  startPacing,
} from '@/core/recording/pacing';
import { missingBetween } from '@/core/recording/sequence';
import type { FrameLedger } from '@/core/recording/take';
import type { VideoFigures, VideoSettings } from '../messages';
import { openFollowing } from './following';
import { type Framing, openFraming } from './framing';
import { ownPicture } from './own-picture';
import { elapsed, isPaused, type Recording, takeTime } from './recording';
import type { Segment } from './segment';
import { openSegmentChain } from './segment-chain';
import type { SourceClock } from './source-clock';
import { type ChosenVideo, chooseVideo, declared, lesser } from './video-config';

export type VideoTrack = {
  readonly role: 'screen' | 'camera';
  readonly clock: SourceClock;
  readonly start: (recording: Recording) => void;
  readonly resume: () => void;
  /** Encodes what is due; called on a timer as well. */
  readonly pump: () => void;
  /** Ends the track's part in the take. */
  readonly stop: (endUs: number) => Promise<void>;
  readonly release: () => void;
  readonly figures: () => VideoFigures;
  readonly ledger: () => FrameLedger;
  /** The latest picture, latest: clone it to keep it. */
  readonly picture: () => VideoFrame | null;
  /** Grows with every picture. */
  readonly serial: () => number;
  readonly bytes: () => number;
  readonly unwritten: () => number;
};

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
  onPicture: (track: Pick<VideoTrack, 'picture' | 'serial'>) => void;
  onEnded: () => void;
  onProblem: (error: unknown) => void;
};

/** More than one picture inside the encoder only adds delay; fewer would let it wait for us. */
const ENCODER_QUEUE = 2;
const WINDOW_US = 2_000_000;

/**
 * One picture track: reads the source all the time (so that a picture is at hand when the take starts), paces, encodes and
 * writes segments. Frames are read here and nowhere else; each is closed exactly once.
 */
export function openVideoTrack(options: Options): VideoTrack {
  const { role, settings, clock, nowUs } = options;
  const reader = options.readable.getReader();
  const following = openFollowing(settings, options.pointer, options.onRegion);
  let recording: Recording | null = null;
  let pacing: Pacing = startPacing(settings.frameRate);
  /** The newest picture: waiting to be encoded, or held while nothing is recorded. */
  let newest: VideoFrame | null = null;
  /** The last encoded one, for repeating. */
  let shown: VideoFrame | null = null;
  let encoder: VideoEncoder | null = null;
  let segment: Segment | null = null;
  let chosen: ChosenVideo | null = null;
  let framing: Framing | null = null;
  let composing: Promise<void> | null = null;
  let source: Size | null = null;
  let preparing: Size | null = null;
  let prepared: { size: Size; chosen: ChosenVideo } | null = null;
  let switching = false;
  const switched = newBell();
  let stopped = false;
  let released = false;
  let serial = 0;
  let lostBefore = 0;
  /** Seconds of the take in which something was dropped or lost. */
  const droppedAtS = new Set<number>();
  /** Timestamp of the last picture that belongs to the take. */
  let lastTimestampUs: number | null = null;
  let lastKeyUs = Number.NEGATIVE_INFINITY;
  let sinceKey = 0;
  let closedBytes = 0;
  let detail: Detail = { hint: true, scale: 1 };
  let looked = { atUs: 0, arrived: 0, dropped: 0 };
  const submitted = new Map<number, number>();
  const encodeMs: number[] = [];
  const allMs: number[] = [];
  const arrivals: number[] = [];
  const encodings: number[] = [];

  /** @param now when it was read */
  const onFrame = (frame: VideoFrame, now: number) => {
    remember(arrivals, now);
    const monotonicUs = clock.toMonotonic(frame.timestamp, now);
    const t = recording && !stopped ? takeTime(recording, monotonicUs) : null;
    // What comes after the film has ended automatically must not stand for its last picture.
    if (recording && !stopped && elapsed(recording, monotonicUs) >= recording.untilUs) return frame.close();
    const early = recording && !stopped && monotonicUs < recording.clock.baseUs;
    if (recording && !stopped && !isPaused(recording) && (t !== null || early)) {
      // Taken before the first instant but arrived after it: it is what the screen shows at the first instant.
      const missing =
        options.sequenced && lastTimestampUs !== null ? missingBetween(lastTimestampUs, frame.timestamp) : 0;
      lostBefore += missing;
      lastTimestampUs = frame.timestamp;
      const { dropped } = pacing.counts;
      pacing = arrive(pacing, t ?? 0);
      if (missing > 0 || pacing.counts.dropped > dropped) droppedAtS.add(Math.floor((t ?? 0) / 1e6));
      hold(frame);
      pump();
    } else {
      lastTimestampUs = null;
      if (!recording && !(preparing && sameSize(preparing, sizeOf(frame)))) prepare(sizeOf(frame));
      hold(frame);
    }
  };

  /** Chooses the encoder before it is needed; a size that cannot be encoded is told before anything is recorded. */
  const prepare = (size: Size) => {
    preparing = size;
    chooseVideo(role, size, lesser(settings, size, detail)).then((next) => {
      prepared = { size, chosen: next };
    }, options.onProblem);
  };

  const hold = (frame: VideoFrame) => {
    newest?.close();
    newest = frame;
    serial++;
    options.onPicture(latest);
  };

  const latest = { picture: () => newest ?? shown, serial: () => serial };

  const read = async () => {
    for (;;) {
      const { value, done } = await reader.read();
      if (done) break;
      const now = nowUs();
      const picture = released || !options.captured ? value : await ownPicture(value);
      // The page ends the stream of a track that was let go. Cancelled from here, it would never close the picture that it holds.
      if (released) picture.close();
      else onFrame(picture, now);
    }
    // Only the source's own end is news.
    if (!released) options.onEnded();
  };
  read().catch(options.onProblem);

  const free = () =>
    !switching && composing === null && encoder !== null && encoder.encodeQueueSize < ENCODER_QUEUE;

  const pump = () => {
    if (!recording || stopped || isPaused(recording)) return;
    if (newest && pacing.waiting && !switching && (sizeChanged(newest) || mustGiveWay())) {
      switching = true;
      const size = sizeOf(newest);
      // The usual case, chosen while the source was only watched, begins in this very moment.
      if (!encoder && prepared && sameSize(prepared.size, size))
        beginSegment(size, pacing.waiting.tUs, prepared.chosen);
      else {
        changeSize(size, pacing.waiting.tUs).catch(options.onProblem);
        return;
      }
    }
    const step = decide(pacing, elapsed(recording, nowUs()), free());
    pacing = step.pacing;
    carryOut(step.act);
  };

  const carryOut = (act: PacingAct) => {
    if (act.act === 'wait' || !encoder) return;
    if (act.act === 'encode') {
      shown?.close();
      shown = newest;
      newest = null;
    }
    if (!shown) return;
    const kept = following.kept(source, nowUs());
    if (framing?.cut) return encode(framing.cut(shown, act.tUs, kept), act.tUs);
    // Bars are drawn into one memory: the next picture waits until this one has left it.
    const [latest, into] = [shown.clone(), encoder];
    composing = (
      framing?.compose(latest, act.tUs, kept) ??
      Promise.reject(new Error('Nothing says how a picture is framed.'))
    )
      .then((picture) => (encoder === into ? encode(picture, act.tUs) : picture.close()))
      .catch(options.onProblem)
      .finally(() => {
        latest.close();
        composing = null;
        pump();
      });
  };

  const encode = (picture: VideoFrame, tUs: number) => {
    const keyFrame = keyIsDue(tUs);
    if (keyFrame) [lastKeyUs, sinceKey] = [tUs, 0];
    sinceKey++;
    submitted.set(tUs, performance.now());
    encoder?.encode(picture, { ...chosen?.options, keyFrame });
    picture.close();
    remember(encodings, nowUs());
  };

  /** By time to the nearest picture, by number exactly. */
  const keyIsDue = (tUs: number) => {
    const { unit, value } = settings.keyframeEvery;
    if (unit === 'frames') return sinceKey >= value || lastKeyUs === Number.NEGATIVE_INFINITY;
    return tUs - lastKeyUs >= value * 1e6 - frameTimeUs(1, settings.frameRate) / 2;
  };

  /** Checks every two seconds whether the encoder is too slow, and lowers quality when the rig prefers that to dropping frames. */
  const mustGiveWay = (): boolean => {
    const now = nowUs();
    if (settings.whenBehind !== 'detail' || !encoder || now - looked.atUs < WINDOW_US) return false;
    const { arrived, dropped } = pacing.counts;
    const behind = looked.atUs > 0 && isBehind(arrived - looked.arrived, dropped - looked.dropped);
    looked = { atUs: now, arrived, dropped };
    const next = behind ? lessDetail({ ...detail, hint: detail.hint && (chosen?.textHint ?? false) }) : null;
    if (next) detail = next;
    return next !== null;
  };

  const sizeChanged = (frame: VideoFrame) => source === null || !sameSize(source, sizeOf(frame));

  /** Another size, or one that was not prepared: the old encoder is emptied, a new segment begins. */
  const changeSize = async (size: Size, startUs: number) => {
    await endSegment();
    beginSegment(size, startUs, await chooseVideo(role, size, lesser(settings, size, detail)));
    pump();
  };

  const beginSegment = (size: Size, startUs: number, next: ChosenVideo) => {
    if (!recording) return;
    const { offsetUs, how } = clock.offset();
    const take = recording;
    const opened = openSegmentChain(
      {
        id: newSegmentId(),
        track: role,
        index: recording.nextIndex(role),
        startUs: Math.max(0, Math.round(startUs)),
        configuration: {
          type: 'video',
          codec: next.encoder.codec,
          width: next.encoder.width,
          height: next.encoder.height,
          bitrateKbps: next.bitrateKbps,
          textHint: next.textHint,
          sourceWidth: size.width,
          sourceHeight: size.height,
        },
        encoderDelayUs: 0,
        offsetUs,
        offsetHow: how,
        continues: false,
      },
      take.files,
      () => take.nextIndex(role),
    );
    segment = opened;
    chosen = next;
    framing = openFraming(next.fitted, settings.filter);
    source = size;
    lastKeyUs = Number.NEGATIVE_INFINITY;
    encoder = new VideoEncoder({
      output: (chunk, meta) => onChunk(opened, chunk, meta),
      error: options.onProblem,
    });
    encoder.configure(next.encoder);
    switching = false;
    switched.ring();
  };

  const onChunk = (into: Segment, chunk: EncodedVideoChunk, meta?: EncodedVideoChunkMetadata) => {
    const began = submitted.get(chunk.timestamp);
    submitted.delete(chunk.timestamp);
    if (began !== undefined) {
      const took = performance.now() - began;
      allMs.push(took);
      encodeMs.push(took);
      if (encodeMs.length > 60) encodeMs.shift();
    }
    const data = new Uint8Array(chunk.byteLength);
    chunk.copyTo(data);
    into.add(
      { data, key: chunk.type === 'key', tUs: chunk.timestamp, durationUs: chunk.duration ?? 0 },
      declared(meta, settings),
    );
    pump();
  };

  const endSegment = async () => {
    await composing;
    if (encoder && encoder.state === 'configured') await encoder.flush();
    encoder?.close();
    encoder = null;
    if (segment) {
      await segment.close();
      closedBytes += segment.bytes();
      segment = null;
    }
  };

  return {
    role,
    clock,
    ...latest,
    pump,
    start: (next) => {
      recording = next;
      if (newest) {
        // The take begins with this picture: what is lost after it is lost to the take.
        lastTimestampUs = newest.timestamp;
        pacing = arrive(pacing, 0);
        pump();
      }
    },
    resume: () => {
      // Whatever changed during the pause is what the screen shows now.
      if (!newest || !recording) return;
      lastTimestampUs = newest.timestamp;
      pacing = arrive(pacing, elapsed(recording, nowUs()));
      pump();
    },
    stop: async (endUs) => {
      if (!recording || stopped) return;
      while (switching) await switched.next();
      const end = finishPacing(pacing, endUs);
      pacing = end.pacing;
      for (const act of end.acts) {
        await composing;
        if ((newest && encoder) || act.act === 'repeat') carryOut(act);
      }
      stopped = true;
      await endSegment();
    },
    release: () => {
      stopped = true;
      released = true;
      newest?.close();
      shown?.close();
      [newest, shown] = [null, null];
      if (encoder?.state === 'configured') encoder.close();
    },
    figures: () => ({
      askedFps: (framesPerSecond(settings.frameRate) * settings.speed.num) / settings.speed.den,
      ...pacing.counts,
      achievedFps: perSecond(encodings, nowUs()),
      arrivedFps: perSecond(arrivals, nowUs()),
      encodeP50Ms: percentile(encodeMs, 0.5),
      encodeP95Ms: percentile(encodeMs, 0.95),
      queue: (encoder?.encodeQueueSize ?? 0) + (pacing.waiting ? 1 : 0),
      bytes: closedBytes + (segment?.bytes() ?? 0),
      source: newest ? sizeOf(newest) : shown ? sizeOf(shown) : null,
      region: following.region(),
      picture: sizeOfConfig((chosen ?? prepared?.chosen)?.encoder),
      textHint: (chosen ?? prepared?.chosen)?.textHint ?? null,
      hintReason: (chosen ?? prepared?.chosen)?.reason ?? null,
    }),
    ledger: () => ({
      askedFps: framesPerSecond(settings.frameRate),
      ...pacing.counts,
      lostBefore: options.sequenced ? lostBefore : null,
      droppedAtS: [...droppedAtS].sort((a, b) => a - b),
      encodeP50Ms: percentile(allMs, 0.5),
      encodeP95Ms: percentile(allMs, 0.95),
    }),
    bytes: () => closedBytes + (segment?.bytes() ?? 0),
    unwritten: () => segment?.unwritten() ?? 0,
  };
}

const sizeOfConfig = (config: VideoEncoderConfig | undefined): Size | null =>
  config ? { width: config.width, height: config.height } : null;

const sameSize = (a: Size, b: Size) => a.width === b.width && a.height === b.height;

const sizeOf = (frame: VideoFrame): Size => ({
  width: frame.visibleRect?.width ?? frame.codedWidth,
  height: frame.visibleRect?.height ?? frame.codedHeight,
});

/** Keeps the instants of the last two seconds. */
function remember(instants: number[], nowUs: number): void {
  instants.push(nowUs);
  while ((instants[0] ?? nowUs) < nowUs - WINDOW_US) instants.shift();
}

const perSecond = (instants: readonly number[], nowUs: number): number =>
  (instants.filter((at) => at > nowUs - WINDOW_US).length * 1e6) / WINDOW_US;
