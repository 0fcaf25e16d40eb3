import { ProblemError } from '@/core/base/problem';
import type { FrameRate } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import { type Arrangement, DISPLAYS } from './desk/arrangement';
import { FromPractice, type PictureKind, type SoundKind, type ToPractice } from './messages';
import { SLIDES } from './slides';

/** The practice devices as they stand in the lists beside real ones. */
export const PRACTICE_DEVICES = {
  picture: [
    { id: 'desk', name: 'Practice display 1' },
    { id: 'desk-2', name: 'Practice display 2' },
    { id: 'window-register', name: 'Practice window: Packet Register' },
    { id: 'window-planner', name: 'Practice window: Bed Planner' },
    { id: 'window-log', name: 'Practice window: Germination Log' },
    { id: 'window-labels', name: 'Practice window: Label Sheet' },
    { id: 'tab-log', name: 'Practice tab: Germination Log' },
    { id: 'slides', name: 'Practice slides' },
    { id: 'test-card', name: 'Test card' },
  ],
  camera: [
    { id: 'presenter', name: 'Practice presenter' },
    { id: 'presenter-green', name: 'Practice presenter, green wall' },
  ],
  sound: [
    { id: 'voice', name: 'Practice voice' },
    { id: 'far-voice', name: 'Practice microphone, far away' },
    { id: 'program-sound', name: 'Practice program sounds' },
    { id: 'beep', name: 'Test card tone' },
    { id: 'high-tone', name: 'Test tone of 10 kHz' },
  ],
} as const;

export type PracticeTrack = {
  track: MediaStreamTrack;
  /** Whoever begins to read gets a picture, though nothing has changed: real captures do that automatically. */
  again: () => void;
  /** Gives nothing more until `again`. */
  hold: () => Promise<unknown>;
  close: () => void;
};

export type PracticeDesk = {
  openPicture: (kind: PictureKind, size: Size, rate: FrameRate) => Promise<PracticeTrack>;
  openSound: (kind: SoundKind) => Promise<PracticeTrack>;
  /** Begins every script again. @returns the instant, µs since the page's time origin */
  cue: () => Promise<number>;
  measure: (
    kind: PictureKind,
    size: Size,
    frames: number,
  ) => Promise<{ meanMs: number; p95Ms: number; identical: boolean }>;
  /** Gives single pictures of a device, at times of its script. */
  draw: (
    kind: PictureKind,
    size: Size,
    atMs: readonly number[],
    onPicture: (picture: Size & { data: Uint8Array<ArrayBuffer> }) => void,
  ) => Promise<void>;
  /** Moves and resizes windows of the practice displays. */
  arrange: (arrangement: Arrangement) => void;
  close: () => void;
};

/** Size of the test card. */
const CARD: Size = DISPLAYS.desk;

/** Size that a device draws at where nobody chose one: displays and windows have their own. */
export const drawnSize = (kind: PictureKind): Size => (kind === 'slides' ? SLIDES : CARD);

/** The next message of a kind, of one device where its number is given. */
const answering =
  (heard: Set<(message: FromPractice) => void>) =>
  <T extends FromPractice['type']>(type: T, id?: number) =>
    new Promise<Extract<FromPractice, { type: T }>>((resolve, reject) => {
      const listen = (message: FromPractice) => {
        if (message.type === 'failed' && message.id === id) reject(new ProblemError(message.problem));
        else if (message.type !== type || (id !== undefined && 'id' in message && message.id !== id)) return;
        else resolve(message as Extract<FromPractice, { type: T }>);
        heard.delete(listen);
      };
      heard.add(listen);
    });

/**
 * Starts the practice desk: devices that are tracks like any other, made in a worker. Needs a browser with
 * `MediaStreamTrackGenerator`.
 * @param onDevices called when a device has gone or come back, as real ones do
 */
export function openPracticeDesk(onDevices?: () => void): PracticeDesk {
  const worker = new Worker(new URL('./practice.worker.ts', import.meta.url), {
    type: 'module',
    name: 'practice',
  });
  const heard = new Set<(message: FromPractice) => void>();
  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = FromPractice.parse(data);
    if (message.type === 'devices') onDevices?.();
    for (const listen of [...heard]) listen(message);
  };
  const say = (message: ToPractice, transfer: Transferable[] = []) => worker.postMessage(message, transfer);
  say({ type: 'start', pageOriginMs: performance.timeOrigin });
  let ids = 0;

  const answer = answering(heard);

  const open = async (
    kind: 'video' | 'audio',
    order: (id: number, writable: WritableStream) => ToPractice,
  ): Promise<PracticeTrack> => {
    const id = ++ids;
    const generator =
      kind === 'video'
        ? new MediaStreamTrackGenerator({ kind: 'video' })
        : new MediaStreamTrackGenerator({ kind: 'audio' });
    const opened = answer('opened', id);
    say(order(id, generator.writable), [generator.writable as unknown as Transferable]);
    await opened;
    return {
      track: generator,
      again: () => say({ type: 'again', id }),
      hold: () => {
        const held = answer('held', id);
        say({ type: 'hold', id });
        return held;
      },
      close: () => {
        // A picture that meets a stopped track on its way is never closed, so the track is stopped after the last one.
        void answer('closed', id).then(() => generator.stop());
        say({ type: 'close', id });
      },
    };
  };

  return {
    openPicture: (kind, size, rate) =>
      open('video', (id, writable) => ({ type: 'open-picture', id, kind, size, rate, writable })),
    openSound: (kind) => open('audio', (id, writable) => ({ type: 'open-sound', id, kind, writable })),
    cue: async () => {
      const cued = answer('cued');
      say({ type: 'cue' });
      return (await cued).cueUs;
    },
    measure: async (kind, size, frames) => {
      const measured = answer('measured');
      say({ type: 'measure', kind, size, frames });
      return measured;
    },
    draw: (kind, size, atMs, onPicture) =>
      new Promise((done) => {
        let count = 0;
        const listen = (message: FromPractice) => {
          if (message.type !== 'drawn') return;
          onPicture({ ...message.size, data: message.data });
          if (++count < atMs.length) return;
          heard.delete(listen);
          done();
        };
        heard.add(listen);
        say({ type: 'draw', kind, size, atMs: [...atMs] });
      }),
    arrange: (arrangement) => say({ type: 'arrange', arrangement }),
    close: () => say({ type: 'end' }),
  };
}
