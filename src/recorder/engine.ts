import { isTreated } from '@/core/audio/treatment';
import { ProblemError } from '@/core/base/problem';
import { chooseCodec, type EncoderSpeed, otherCodec } from '@/core/encoding/encoder-speed';
import { soundChannels } from '@/core/encoding/rate';
import type { TakeEnd, TakeEvent, TakeHead } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';
import {
  type AttachSettings,
  FromRecorder,
  type MediaRole,
  PROTOCOL,
  type SoundSettings,
  type ToRecorder,
  type VideoSettings,
} from './messages';
import type { OpenSource } from './sources';

/** What was measured here before. */
export type Known = {
  /** Of the encoders, at the picture's size. */
  speeds?: readonly EncoderSpeed[];
  /** Time of a picture with the text hint. */
  hintMs?: number;
};

/** The recorder as the page sees it. Needs no React and no server: takes go to the journal. */
export type Recorder = {
  /**
   * Connects a source; figures come from then on. Also in the middle of a take.
   * @param known of this browser's encoders on this machine
   */
  attach: (source: OpenSource, rig: Rig, known?: Known) => Promise<void>;
  detach: (role: MediaRole) => void;
  /** Sends a source's latest picture to a port whenever the port asks. */
  preview: (role: MediaRole, port: MessagePort) => void;
  /** The same for somebody who looks for a while; the port is closed by a message `end`. */
  sample: (role: MediaRole, port: MessagePort) => void;
  previewState: (role: MediaRole, state: 'again' | 'off') => void;
  /** The source's timestamps of the last seconds, as they were read. */
  timestamps: (role: MediaRole) => Promise<{ timestampsUs: number[]; earliestOffsetUs: number }>;
  /** An exact offset for a picture source's timestamps, from `calibrate`. */
  setOffset: (role: MediaRole, offsetUs: number) => void;
  /** @returns the take's first instant, µs since the page's time origin */
  start: (head: TakeHead) => Promise<number>;
  pause: () => void;
  resume: () => void;
  /** Where the pointer is: by the practice desk's script, which began at this time. */
  pointerScript: (cueUs: number, shift: { x: number; y: number }) => void;
  mute: (role: MediaRole, muted: boolean) => void;
  event: (kind: TakeEvent['kind'], data: TakeEvent['data'], atUs?: number) => void;
  /** Ends the take. Everything is in the journal when this resolves; sources must be attached again for the next take. */
  stop: () => Promise<TakeEnd>;
  discard: () => Promise<void>;
  /** @returns the function that ends the listening */
  listen: (listener: (message: FromRecorder) => void) => () => void;
  close: () => void;
};

/** A key of the browser's storage by which tests have segments closed after some seconds instead of minutes. */
export const LAB_SEGMENT_S = 'lab.segment-s';

function labSegmentLength(): { segmentUs?: number } {
  const seconds = Number(localStorage.getItem(LAB_SEGMENT_S));
  return seconds > 0 ? { segmentUs: seconds * 1e6 } : {};
}

/** Now, in the page's monotonic clock. */
export const pageNowUs = (): number => performance.now() * 1000;

export function openRecorder(): Recorder {
  const worker = new Worker(new URL('./worker/recorder.worker.ts', import.meta.url), {
    type: 'module',
    name: 'recorder',
  });
  const listeners = new Set<(message: FromRecorder) => void>();
  /** What is read now: a track of our own for each source, which ends without ending the source. */
  const attached = new Map<MediaRole, { id: number; track: MediaStreamTrack | null }>();
  let ids = 0;
  const release = (role: MediaRole) => {
    attached.get(role)?.track?.stop();
    attached.delete(role);
  };
  const releaseAll = () => {
    for (const role of [...attached.keys()]) release(role);
  };
  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = FromRecorder.parse(data);
    // The end of a source that was exchanged meanwhile is no news.
    if (message.type === 'ended') {
      if (attached.get(message.role)?.id !== message.id) return;
      release(message.role);
    }
    for (const listener of [...listeners]) listener(message);
  };
  worker.onerror = (event) => {
    const problem = {
      code: 'recorder-died',
      message: `The recorder stopped: ${event.message}`,
      hint: 'Reload the page; what was recorded is kept.',
    };
    for (const listener of [...listeners]) listener({ type: 'problem', problem, fatal: true });
  };
  const say = (message: ToRecorder, transfer: Transferable[] = []) => worker.postMessage(message, transfer);
  const listen = (listener: (message: FromRecorder) => void) => {
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
    };
  };
  /** The next message of a kind, or the one that is meant; a fatal problem ends the waiting. */
  const answer = <T extends FromRecorder['type']>(
    type: T,
    meant: (message: Extract<FromRecorder, { type: T }>) => boolean = () => true,
  ) =>
    new Promise<Extract<FromRecorder, { type: T }>>((resolve, reject) => {
      const isMeant = (message: FromRecorder): message is Extract<FromRecorder, { type: T }> =>
        message.type === type && meant(message as Extract<FromRecorder, { type: T }>);
      const end = listen((message) => {
        if (isMeant(message)) resolve(message);
        else if (message.type === 'problem' && message.fatal) reject(new ProblemError(message.problem));
        else return;
        end();
      });
    });
  /** Resolves when the worker has answered, and so listens at this very moment. */
  const listens = async () => {
    const opened = answer('opened');
    say({ type: 'open', protocol: PROTOCOL, pageOriginMs: performance.timeOrigin });
    await opened;
  };
  void listens().catch(() => undefined);

  /** The sources that are on their way to the worker: one after the other, so that none waits there while another is taken. */
  let handing: Promise<unknown> = Promise.resolve();
  const handOver = async (id: number, source: OpenSource, rig: Rig, known: Known): Promise<void> => {
    const { role, type, clock } = source;
    // A stream that is on its way to the worker is still read here by the browser itself: a picture that came meanwhile would belong
    // to nobody, and captures have few to give. So it is sent when nothing keeps it waiting.
    await listens();
    // Nobody wants it any more.
    if (attached.get(role)?.id !== id) return;
    const track = source.track.clone();
    attached.set(role, { id, track });
    // Processors exist in the window only; their far end is handed to the worker, so that no frame passes through here.
    const processor =
      type === 'video'
        ? new MediaStreamTrackProcessor({ track: track as MediaStreamVideoTrack, maxBufferSize: 8 })
        : new MediaStreamTrackProcessor({ track: track as MediaStreamAudioTrack, maxBufferSize: 200 });
    const readable = processor.readable as ReadableStream<VideoFrame | AudioData>;
    const told = answer('attached', (message) => message.id === id);
    const settings = wishOf(role, rig, known);
    say(
      {
        type: 'attach',
        source: { id, role, type, clock, sequenced: source.sequenced ?? false, readable },
        settings,
      },
      [readable],
    );
    const { problem } = await told;
    if (problem) throw new ProblemError(problem);
    source.again?.();
  };

  return {
    listen,
    attach: (source, rig, known) => {
      const { role } = source;
      const id = ++ids;
      release(role);
      attached.set(role, { id, track: null });
      const turn = handing.then(() => handOver(id, source, rig, known ?? {}));
      handing = turn.catch(() => undefined);
      return turn;
    },
    detach: (role) => {
      say({ type: 'detach', role });
      release(role);
    },
    preview: (role, port) => say({ type: 'preview', role, port }, [port]),
    sample: (role, port) => say({ type: 'sample', role, port }, [port]),
    previewState: (role, state) => say({ type: 'preview-state', role, state }),
    timestamps: async (role) => {
      const told = answer('timestamps', (message) => message.role === role);
      say({ type: 'timestamps', role });
      return told;
    },
    setOffset: (role, offsetUs) => say({ type: 'offset', role, offsetUs }),
    start: async (head) => {
      // Asked of the browser, not of the user: a journal that was promised to stay is not cleared away for want of room.
      void navigator.storage?.persist?.();
      const started = answer('started');
      say({ type: 'start', head, ...labSegmentLength() });
      return (await started).baseUs;
    },
    pause: () => say({ type: 'pause', atUs: pageNowUs() }),
    resume: () => say({ type: 'resume', atUs: pageNowUs() }),
    pointerScript: (cueUs, shift) => say({ type: 'pointer-script', cueUs, shift }),
    mute: (role, muted) => say({ type: 'mute', role, muted }),
    event: (kind, data, atUs = pageNowUs()) => say({ type: 'event', kind, data, atUs }),
    stop: async () => {
      const stopped = answer('stopped');
      say({ type: 'stop', atUs: pageNowUs() });
      const { end } = await stopped;
      releaseAll();
      return end;
    },
    discard: async () => {
      const discarded = answer('discarded');
      say({ type: 'discard' });
      await discarded;
      releaseAll();
    },
    close: () => {
      say({ type: 'close' });
      releaseAll();
    },
  };
}

function wishOf(role: MediaRole, rig: Rig, known: Known): AttachSettings {
  if (role === 'screen' || role === 'camera') return { video: videoSettings(role, rig, known) };
  return { sound: soundSettings(role, rig) };
}

/** How a rig keeps a sound. */
export function soundSettings(role: 'voice' | 'app-sound', rig: Rig): SoundSettings {
  const { voice } = rig;
  const { codec, sampleRate, voiceKbps, appKbps } = rig.sound;
  if (role === 'app-sound')
    return { codec, sampleRate, kbps: appKbps, channels: soundChannels(rig, 'appSound'), treatment: null };
  const treated = voice?.treated === 'while-recording' && isTreated(voice.treatment);
  return {
    codec,
    sampleRate,
    kbps: voiceKbps,
    channels: soundChannels(rig, 'voice'),
    treatment: treated ? voice.treatment : null,
  };
}

function videoSettings(role: 'screen' | 'camera', rig: Rig, known: Known): VideoSettings {
  const { source: _, ...asked } = rig.picture;
  const speeds = known.speeds ?? [];
  const { codec } = chooseCodec(asked, speeds);
  const picture = {
    ...asked,
    codec,
    otherCodec: asked.codec === 'automatic' ? otherCodec(codec, speeds) : undefined,
  };
  if (role === 'screen' || !rig.camera) return { ...picture, measuredHintMs: known.hintMs };
  return {
    ...picture,
    // The camera is small and must never cost the screen its frames: the fastest codec, no larger than it is captured.
    aim: 'whole',
    follow: null,
    fit: 'within',
    codec: 'h264',
    otherCodec: 'vp9',
    profile: 'automatic',
    level: null,
    rateControl: 'average',
    bitrateKbps: null,
    keyframeEvery: { unit: 'seconds', value: 2 },
    textHint: 'off',
    box: rig.camera.size,
    frameRate: rig.camera.frameRate,
  };
}
