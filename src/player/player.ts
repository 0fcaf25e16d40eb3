import { createStore, type StoreApi } from 'zustand/vanilla';
import { steppedUs } from '@/core/base/timecode';
import { at, type Cut, cutLengthUs } from '@/core/cut/cut';
import { FromPlayer, type PlayerTake, type ToPlayer } from './messages';
import { openPitch, type Pitch } from './pitch';

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
  /** One frame on or back. */
  step: (by: 1 | -1) => void;
  /** @param speed of playing, 1 as recorded; sounds keep their pitch. Resolves when it is played so. */
  setSpeed: (speed: number) => Promise<void>;
  /** @param volume 0…1, of everything that is heard */
  setVolume: (volume: number) => void;
  /** Canvas pixels; the picture is fitted into them. */
  resize: (width: number, height: number) => void;
  close: () => void;
};

/** Time from "play" to the first sound: enough to decode it. */
const LEAD_S = 0.12;
const CLOCK_MS = 200;

/** What a browser must have for the separate tracks; without it the plain video is shown. */
export const canPlayTracks = (): boolean =>
  'VideoDecoder' in globalThis && 'AudioDecoder' in globalThis && 'OffscreenCanvas' in globalThis;

const newWorker = () =>
  new Worker(new URL('./player.worker.ts', import.meta.url), { type: 'module', name: 'player' });
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
  const say = (message: ToPlayer, transfer: Transferable[] = []) => worker.postMessage(message, transfer);
  let sound: AudioContext | null = null;
  let master: GainNode | null = null;
  let volume = 1;
  let speed = 1;
  let pitch: Pitch | null = null;
  /** The place that is heard at the context's time `at`. */
  let start = { us: 0, at: 0 };
  let asked = 0;
  let clockTimer: ReturnType<typeof setInterval> | undefined;
  const voices = new Set<AudioBufferSourceNode>();

  /** The place that is heard at an instant of the context. */
  const heardAt = (at: number) =>
    start.us + (at - (speed === 1 ? 0 : (pitch?.latencyS ?? 0)) - start.at) * 1e6 * speed;
  const heardUs = () => (sound ? heardAt(sound.currentTime) : start.us);

  /** What the sounds go through: at their own speed straight to the loudspeakers. */
  const connect = () => {
    if (!sound || !master) return;
    master.disconnect();
    pitch?.node.disconnect();
    if (speed === 1 || !pitch) master.connect(sound.destination);
    else {
      pitch.setSpeed(speed);
      master.connect(pitch.node).connect(sound.destination);
    }
  };

  const tellClock = () => {
    if (!sound) return;
    // The output's own clock says which instant of the context is at the loudspeaker now.
    const { contextTime = 0, performanceTime = 0 } = sound.getOutputTimestamp();
    const [at, pageMs] =
      performanceTime > 0 ? [contextTime, performanceTime] : [sound.currentTime, performance.now()];
    say({ type: 'clock', us: heardAt(at), pageMs, speed });
    if (heardUs() >= now().durationUs) {
      pause();
      change({ positionUs: now().durationUs });
    }
  };

  const onSound = (message: Extract<FromPlayer, { type: 'sound' }>) => {
    if (!sound || !master || message.asked !== asked || !now().playing) return;
    const buffer = sound.createBuffer(
      message.planes.length,
      message.planes[0]?.length ?? 1,
      message.sampleRate,
    );
    message.planes.forEach((plane, i) => {
      buffer.copyToChannel(plane, i);
    });
    const at = start.at + (message.us - start.us) / 1e6 / speed;
    const late = (sound.currentTime - at) * speed;
    if (late >= buffer.duration) return;
    const source = new AudioBufferSourceNode(sound, { buffer, playbackRate: speed });
    const gain = new GainNode(sound, { gain: 10 ** (message.gainDb / 20) });
    source.connect(gain).connect(master);
    source.start(Math.max(at, 0), Math.max(0, late));
    voices.add(source);
    source.onended = () => voices.delete(source);
  };

  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = FromPlayer.parse(data);
    if (message.type === 'loaded') {
      const { width, height } = message;
      change({ loaded: true, size: { width, height } });
    } else if (message.type === 'shown') {
      const { us, exact, due, missed } = message;
      if (message.asked !== asked) return;
      change({ positionUs: us, exact, due: now().due + due, missed: now().missed + missed });
    } else if (message.type === 'sound') onSound(message);
    else change({ failure: message.message });
  };
  worker.onerror = (event) => change({ failure: event.message });

  /** Counts what was wished of playing: one that was ended while it was made ready does not begin. */
  let wishes = 0;

  const play = async () => {
    if (!now().loaded || now().playing) return;
    const mine = ++wishes;
    if (!sound || !master) {
      sound = new AudioContext({ latencyHint: 'interactive' });
      master = new GainNode(sound, { gain: volume });
      connect();
    }
    if (speed !== 1 && !pitch) {
      try {
        pitch = await openPitch(sound, speed);
      } catch (error) {
        change({
          failure: `The playback speed could not be changed: ${error instanceof Error ? error.message : error}`,
        });
        return;
      }
      connect();
    }
    await sound.resume();
    if (mine !== wishes) return;
    const us = now().positionUs >= now().durationUs - 50_000 ? 0 : now().positionUs;
    start = { us, at: sound.currentTime + LEAD_S };
    change({ playing: true });
    say({ type: 'play', us, asked: ++asked });
    tellClock();
    clockTimer = setInterval(tellClock, CLOCK_MS);
  };

  const pause = () => {
    wishes++;
    if (!now().playing) return;
    clearInterval(clockTimer);
    for (const voice of voices) voice.stop();
    voices.clear();
    say({ type: 'pause' });
    change({ playing: false });
  };

  const show = (type: 'seek' | 'step', us: number) => {
    change({ positionUs: us, exact: false });
    say({ type, us, asked: ++asked });
  };

  const offscreen = canvas.transferControlToOffscreen();
  say({ type: 'load', pageOriginMs: performance.timeOrigin, takes, cut, canvas: offscreen }, [offscreen]);

  return {
    store,
    play,
    pause,
    seek: (us) => {
      const again = now().playing;
      pause();
      show('seek', us);
      if (again) void play();
    },
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
      if (next === speed) return;
      const again = now().playing;
      pause();
      speed = next;
      connect();
      if (again) await play();
    },
    setVolume: (next) => {
      volume = next;
      // A hundredth of a second, so that nothing clicks.
      if (sound) master?.gain.setTargetAtTime(next, sound.currentTime, 0.01);
    },
    resize: (width, height) => say({ type: 'resize', width, height }),
    close: () => {
      clearInterval(clockTimer);
      worker.terminate();
      void sound?.close();
    },
  };
}
