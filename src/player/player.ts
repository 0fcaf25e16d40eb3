import { createStore, type StoreApi } from 'zustand/vanilla';
import { steppedUs } from '@/core/base/timecode';
import { at, type Cut, cutLengthUs } from '@/core/cut/cut';
import type { SoundKind } from '@/core/recording/take';
import { FromPlayer, type PlayerOrder, type PlayerTake, type ToPlayer } from './messages';
import { openSoundOutput, type SoundOutput } from './sound-output';

export type PlayerState = {
  loaded: boolean;
  playing: boolean;
  positionUs: number;
  durationUs: number;
  /** Size of the picture, that of the first screen. */
  size: { width: number; height: number } | null;
  /** The picture on the canvas is the one of the position. */
  exact: boolean;
  /** Pictures of all tracks that were due while it played, and those of them that nobody saw in time. */
  due: number;
  missed: number;
  /** The one sound that is heard; null for all of them. */
  solo: SoundKind | null;
  failure: string | null;
};

/** Before anything is loaded. */
export const NOT_LOADED: PlayerState = {
  loaded: false,
  playing: false,
  positionUs: 0,
  durationUs: 0,
  size: null,
  exact: false,
  due: 0,
  missed: 0,
  solo: null,
  failure: null,
};

type ReadonlyStore = Pick<StoreApi<PlayerState>, 'getState' | 'getInitialState' | 'subscribe'>;

export type Player = {
  store: ReadonlyStore;
  play: () => Promise<void>;
  pause: () => void;
  seek: (us: number) => void;
  /** Plays another cut of the same takes, from this place. */
  setCut: (cut: Cut, us: number) => void;
  /** @param by so many frames on; negative: back */
  step: (by: number) => void;
  /** @param speed of playing, 1 as recorded; sounds keep their pitch. Resolves when it is played so. */
  setSpeed: (speed: number) => Promise<void>;
  /** Only this sound is heard, or all of them. */
  setSolo: (track: SoundKind | null) => void;
  /** How long the picture must be seen for its text to be read, µs; null where nothing is shown. */
  readingTime: () => Promise<number | null>;
  /** @param volume 0…1, of everything that is heard */
  setVolume: (volume: number) => void;
  /** Canvas pixels; the picture is fitted into them. */
  resize: (width: number, height: number) => void;
  close: () => void;
};

const CLOCK_MS = 200;

/** What a browser must have for the separate tracks; without it the plain video is shown. */
export const canPlayTracks = (): boolean =>
  'VideoDecoder' in globalThis && 'AudioDecoder' in globalThis && 'OffscreenCanvas' in globalThis;

const newWorker = () =>
  new Worker(new URL('./player.worker.ts', import.meta.url), { type: 'module', name: 'player' });
/** One whose player was closed, or that none has had yet: what the browser has compiled there need not be compiled again. */
let spare: Worker | null = null;

/** Loads the player's code while a take is still on its way. */
export function preparePlayer(): void {
  spare ??= newWorker();
}

/**
 * Plays the separate tracks of takes on a canvas, as a cut says. Sound leads: its context's clock is the clock of everything.
 * @param canvas its control goes to the player's worker
 * @param takes every take of the cut
 */
export function openPlayer(canvas: HTMLCanvasElement, takes: PlayerTake[], cut: Cut): Player {
  const worker = spare ?? newWorker();
  spare = null;
  let played = cut;
  const store = createStore<PlayerState>(() => ({ ...NOT_LOADED, durationUs: cutLengthUs(cut) }));
  const { getState: now, setState: change } = store;
  const { port1: port, port2: workersPort } = new MessageChannel();
  const say = (message: ToPlayer) => port.postMessage(message);
  const sound = openSoundOutput();
  let asked = 0;
  let hasFailed = false;
  const readings: ((us: number | null) => void)[] = [];
  followWorker(
    port,
    store,
    () => asked,
    sound,
    (us) => readings.shift()?.(us),
  );
  const { play, pause, paused } = openPlaying(store, say, sound, () => ++asked);

  const show = (type: 'seek' | 'step', us: number) => {
    change({ positionUs: us, exact: false });
    say({ type, us, asked: ++asked });
  };

  worker.onerror = (event) => {
    hasFailed = true;
    change({ failure: event.message });
  };
  const offscreen = canvas.transferControlToOffscreen();
  const order: PlayerOrder = { pageOriginMs: performance.timeOrigin, takes, cut, canvas: offscreen };
  worker.postMessage(order, [workersPort, offscreen]);

  return {
    store,
    play,
    pause,
    seek: (us) => void paused(() => show('seek', us)),
    setCut: (next, us) => {
      pause();
      played = next;
      change({ durationUs: cutLengthUs(next), positionUs: us, exact: false });
      say({ type: 'cut', cut: next, us, asked: ++asked });
    },
    step: (by) => {
      pause();
      const { piece } = at(played, now().positionUs);
      const take = takes.find(({ id }) => id === piece.take);
      if (take) show('step', steppedUs(now().positionUs, by, take.rate, now().durationUs));
    },
    setSpeed: async (next) => {
      if (next !== sound.speed()) await paused(() => sound.setSpeed(next));
    },
    setSolo: (solo) => {
      change({ solo });
      void paused(() => say({ type: 'solo', track: solo }));
    },
    readingTime: () =>
      new Promise((told) => {
        readings.push(told);
        say({ type: 'reading' });
      }),
    setVolume: sound.setVolume,
    resize: (width, height) => say({ type: 'resize', width, height }),
    close: () => {
      pause();
      say({ type: 'close' });
      port.onmessage = null;
      sound.close();
      worker.onerror = null;
      if (spare || hasFailed) worker.terminate();
      else spare = worker;
    },
  };
}

/** Playing and pausing. @param nextAsk numbers what is wished of the worker */
function openPlaying(
  { getState: now, setState: change }: StoreApi<PlayerState>,
  say: (message: ToPlayer) => void,
  sound: SoundOutput,
  nextAsk: () => number,
) {
  let clockTimer: ReturnType<typeof setInterval> | undefined;
  /** Counts what was wished of playing: one that was ended while it was made ready does not begin. */
  let wishes = 0;

  const tellClock = () => {
    say({ type: 'clock', ...sound.atLoudspeaker(), speed: sound.speed() });
    if (sound.heardUs() < now().durationUs) return;
    pause();
    change({ positionUs: now().durationUs });
  };

  const play = async () => {
    if (!now().loaded || now().playing) return;
    const mine = ++wishes;
    try {
      await sound.prepare();
    } catch (error) {
      const why = error instanceof Error ? error.message : error;
      return change({ failure: `The playback speed could not be changed: ${why}` });
    }
    if (mine !== wishes) return;
    const us = now().positionUs >= now().durationUs - 50_000 ? 0 : now().positionUs;
    sound.begin(us);
    change({ playing: true });
    say({ type: 'play', us, asked: nextAsk() });
    tellClock();
    clockTimer = setInterval(tellClock, CLOCK_MS);
  };

  const pause = () => {
    wishes++;
    if (!now().playing) return;
    clearInterval(clockTimer);
    sound.silence();
    say({ type: 'pause' });
    change({ playing: false });
  };

  /** Pauses for a change, and goes on after it. */
  const paused = async (change: () => void) => {
    const again = now().playing;
    pause();
    change();
    if (again) await play();
  };
  return { play, pause, paused };
}

/** Follows what the player's worker tells. @param asked what was wished last: answers to older wishes are no news */
function followWorker(
  port: MessagePort,
  { getState: now, setState: change }: StoreApi<PlayerState>,
  asked: () => number,
  sound: SoundOutput,
  onReading: (us: number | null) => void,
): void {
  port.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = FromPlayer.parse(data);
    if (message.type === 'loaded') {
      const { width, height } = message;
      const known = now().size;
      const isSame = known?.width === width && known.height === height;
      change({ loaded: true, size: isSame ? known : { width, height } });
    } else if (message.type === 'failed') change({ failure: message.message });
    else if (message.type === 'reading') onReading(message.us);
    else if (message.asked !== asked()) return;
    else if (message.type === 'sound') {
      if (now().playing) sound.put(message);
    } else {
      const { us, exact, due, missed } = message;
      change({ positionUs: us, exact, due: now().due + due, missed: now().missed + missed });
    }
  };
}
