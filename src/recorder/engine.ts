import { ProblemError } from '@/core/base/problem';
import type { TakeEnd, TakeEvent, TakeHead } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';
import { attachSettings, type Known } from './attach-settings';
import { FromRecorder, type MediaRole, PROTOCOL, type Rehearsed, type ToRecorder } from './messages';
import type { OpenSource } from './sources';

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
  /**
   * @param rehearsalUs how long it is, where it is a rehearsal: nothing of it is uploaded, and `stopRehearsal` ends it
   * @returns the take's first instant, µs since the page's time origin
   */
  start: (head: TakeHead, rehearsalUs?: number) => Promise<number>;
  pause: () => void;
  resume: () => void;
  /** Where the pointer is: by the practice desk's script, which began at this time. */
  pointerScript: (cueUs: number, shift: { x: number; y: number }) => void;
  mute: (role: MediaRole, muted: boolean) => void;
  event: (kind: TakeEvent['kind'], data: TakeEvent['data'], atUs?: number) => void;
  /** Ends the take. Everything is in the journal when this resolves; sources must be attached again for the next take. */
  stop: () => Promise<TakeEnd>;
  /** Ends a rehearsal. Its files stay until the next one. */
  stopRehearsal: () => Promise<{ end: TakeEnd; rehearsed: Rehearsed }>;
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

/** The recorder's worker, and what is said to it and by it. */
type Line = {
  say: (message: ToRecorder, transfer?: Transferable[]) => void;
  /** @returns the function that ends the listening */
  listen: (listener: (message: FromRecorder) => void) => () => void;
  /** The next message of a kind, or the one that is meant; a fatal problem ends the waiting. */
  answer: <T extends FromRecorder['type']>(
    type: T,
    meant?: (message: Extract<FromRecorder, { type: T }>) => boolean,
  ) => Promise<Extract<FromRecorder, { type: T }>>;
};

/** @param isNews whether a message is passed on */
function openLine(worker: Worker, isNews: (message: FromRecorder) => boolean): Line {
  const listeners = new Set<(message: FromRecorder) => void>();
  const tell = (message: FromRecorder) => {
    for (const listener of [...listeners]) listener(message);
  };
  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = FromRecorder.parse(data);
    if (isNews(message)) tell(message);
  };
  worker.onerror = (event) => {
    const problem = {
      code: 'recorder-died',
      message: `The recorder stopped: ${event.message}`,
      hint: 'Reload the page; what was recorded is kept.',
    };
    tell({ type: 'problem', problem, fatal: true });
  };
  const listen: Line['listen'] = (listener) => {
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
    };
  };
  return {
    say: (message, transfer = []) => worker.postMessage(message, transfer),
    listen,
    answer: (type, meant = () => true) =>
      new Promise((resolve, reject) => {
        type Meant = Extract<FromRecorder, { type: typeof type }>;
        const isMeant = (message: FromRecorder): message is Meant =>
          message.type === type && meant(message as Meant);
        const end = listen((message) => {
          if (isMeant(message)) resolve(message);
          else if (message.type === 'problem' && message.fatal) reject(new ProblemError(message.problem));
          else return;
          end();
        });
      }),
  };
}

/** What is read now: a track of our own for each source, which ends without ending the source. */
type Attached = Map<MediaRole, { id: number; track: MediaStreamTrack | null }>;

/** Hands sources to the worker: one after the other, so that none waits there while another is taken. */
function openHandingOver({ say, answer }: Line, attached: Attached) {
  let ids = 0;
  let handing: Promise<unknown> = Promise.resolve();
  const release = (role: MediaRole) => {
    attached.get(role)?.track?.stop();
    attached.delete(role);
  };
  /** Resolves when the worker has answered, and so listens at this very moment. */
  const listens = async () => {
    const opened = answer('opened');
    say({ type: 'open', protocol: PROTOCOL, pageOriginMs: performance.timeOrigin });
    await opened;
  };
  void listens().catch(() => undefined);
  const handOver = async (id: number, source: OpenSource, rig: Rig, known: Known): Promise<void> => {
    const { role, type, clock, sequenced = false } = source;
    // A stream that is on its way to the worker is still read here by the browser itself: a picture that came meanwhile would belong
    // to nobody, and captures have few to give. So the source is asked to wait, and sent when nothing keeps it waiting.
    await source.hold?.();
    await listens();
    // Nobody wants it any more.
    if (attached.get(role)?.id !== id) return;
    const track = source.track.clone();
    attached.set(role, { id, track });
    const readable = readableOf(type, track);
    const told = answer('attached', (message) => message.id === id);
    const settings = attachSettings(role, rig, known);
    say({ type: 'attach', source: { id, role, type, clock, sequenced, readable }, settings }, [readable]);
    const { problem } = await told;
    source.again?.();
    if (problem) throw new ProblemError(problem);
  };
  return {
    release,
    releaseAll: () => {
      for (const role of [...attached.keys()]) release(role);
    },
    attach: (source: OpenSource, rig: Rig, known: Known = {}) => {
      const id = ++ids;
      release(source.role);
      attached.set(source.role, { id, track: null });
      const turn = handing.then(() => handOver(id, source, rig, known));
      handing = turn.catch(() => undefined);
      return turn;
    },
  };
}

/** Processors exist in the window only; their far end is handed to the worker, so that no frame passes through here. */
function readableOf(
  type: OpenSource['type'],
  track: MediaStreamTrack,
): ReadableStream<VideoFrame | AudioData> {
  const processor =
    type === 'video'
      ? new MediaStreamTrackProcessor({ track: track as MediaStreamVideoTrack, maxBufferSize: 8 })
      : new MediaStreamTrackProcessor({ track: track as MediaStreamAudioTrack, maxBufferSize: 200 });
  return processor.readable as ReadableStream<VideoFrame | AudioData>;
}

export function openRecorder(): Recorder {
  const worker = new Worker(new URL('./worker/recorder.worker.ts', import.meta.url), {
    type: 'module',
    name: 'recorder',
  });
  const attached: Attached = new Map();
  const line = openLine(worker, (message) => {
    if (message.type !== 'ended') return true;
    // The end of a source that was exchanged meanwhile is no news.
    if (attached.get(message.role)?.id !== message.id) return false;
    sources.release(message.role);
    return true;
  });
  const { say, answer } = line;
  const sources = openHandingOver(line, attached);
  const stop = async () => {
    const stopped = answer('stopped');
    say({ type: 'stop', atUs: pageNowUs() });
    const { end, rehearsed } = await stopped;
    sources.releaseAll();
    return { end, rehearsed };
  };
  return {
    listen: line.listen,
    attach: sources.attach,
    detach: (role) => {
      say({ type: 'detach', role });
      sources.release(role);
    },
    preview: (role, port) => say({ type: 'preview', role, port }, [port]),
    sample: (role, port) => say({ type: 'sample', role, port }, [port]),
    previewState: (role, state) => say({ type: 'preview-state', role, state }),
    timestamps: async (role) => {
      // Screen and camera may ask at the same time: each takes its own.
      const told = answer('timestamps', (message) => message.role === role);
      say({ type: 'timestamps', role });
      return told;
    },
    setOffset: (role, offsetUs) => say({ type: 'offset', role, offsetUs }),
    start: async (head, rehearsalUs) => {
      // Asked of the browser, not of the user: a journal that was promised to stay is not cleared away for want of room.
      void navigator.storage?.persist?.();
      const started = answer('started');
      say({ type: 'start', head, ...labSegmentLength(), ...(rehearsalUs !== undefined && { rehearsalUs }) });
      return (await started).baseUs;
    },
    pause: () => say({ type: 'pause', atUs: pageNowUs() }),
    resume: () => say({ type: 'resume', atUs: pageNowUs() }),
    pointerScript: (cueUs, shift) => say({ type: 'pointer-script', cueUs, shift }),
    mute: (role, muted) => say({ type: 'mute', role, muted }),
    event: (kind, data, atUs = pageNowUs()) => say({ type: 'event', kind, data, atUs }),
    stop: async () => (await stop()).end,
    stopRehearsal: async () => {
      const { end, rehearsed } = await stop();
      if (!rehearsed) throw new Error('What was recorded was no rehearsal.');
      return { end, rehearsed };
    },
    discard: async () => {
      const discarded = answer('discarded');
      say({ type: 'discard' });
      await discarded;
      sources.releaseAll();
    },
    close: () => {
      say({ type: 'close' });
      sources.releaseAll();
    },
  };
}
