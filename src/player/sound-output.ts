import type { FromPlayer } from './messages';
import { openPitch, type Pitch } from './pitch';

/** The player's sound output. Its clock drives playback: the position at the loudspeaker is the position that is played. */
export type SoundOutput = {
  /** Makes it ready to be heard at the speed that was set. Call it from a click. */
  readonly prepare: () => Promise<void>;
  /** What is put from now on is heard from this place on. */
  readonly begin: (us: number) => void;
  /** The place that is heard now. */
  readonly heardUs: () => number;
  /** The same at the loudspeaker, by the page's clock. */
  readonly atLoudspeaker: () => { us: number; pageMs: number };
  /** Plays a piece at its place, as far as that is not over. */
  readonly put: (piece: Piece) => void;
  readonly silence: () => void;
  readonly speed: () => number;
  /** @param speed of playing, 1 as recorded; sounds keep their pitch */
  readonly setSpeed: (speed: number) => void;
  /** @param volume 0…1, of everything that is heard */
  readonly setVolume: (volume: number) => void;
  readonly close: () => void;
};

type Piece = Pick<Extract<FromPlayer, { type: 'sound' }>, 'us' | 'planes' | 'sampleRate' | 'gainDb'>;

/** Time from "play" to the first sound: enough to decode it. */
const LEAD_S = 0.12;

export function openSoundOutput(): SoundOutput {
  let out: { context: AudioContext; master: GainNode } | null = null;
  let volume = 1;
  let speed = 1;
  let pitch: Pitch | null = null;
  /** The place that is heard at the context's time `at`. */
  let start = { us: 0, at: 0 };
  const voices = new Set<AudioBufferSourceNode>();

  /** The place that is heard at an instant of the context. */
  const heardAt = (at: number) =>
    start.us + (at - (speed === 1 ? 0 : (pitch?.latencyS ?? 0)) - start.at) * 1e6 * speed;

  /** What the sounds go through: at their own speed straight to the loudspeakers. */
  const connect = () => {
    if (!out) return;
    const { context, master } = out;
    master.disconnect();
    pitch?.node.disconnect();
    if (speed === 1 || !pitch) master.connect(context.destination);
    else {
      pitch.setSpeed(speed);
      master.connect(pitch.node).connect(context.destination);
    }
  };

  return {
    prepare: async () => {
      if (!out) {
        const context = new AudioContext({ latencyHint: 'interactive' });
        out = { context, master: new GainNode(context, { gain: volume }) };
        connect();
      }
      if (speed !== 1 && !pitch) {
        pitch = await openPitch(out.context, speed);
        connect();
      }
      await out.context.resume();
    },
    begin: (us) => {
      start = { us, at: (out?.context.currentTime ?? 0) + LEAD_S };
    },
    heardUs: () => (out ? heardAt(out.context.currentTime) : start.us),
    atLoudspeaker: () => {
      if (!out) return { us: start.us, pageMs: performance.now() };
      // The output's own clock says which instant of the context is at the loudspeaker now.
      const { contextTime = 0, performanceTime = 0 } = out.context.getOutputTimestamp();
      return performanceTime > 0
        ? { us: heardAt(contextTime), pageMs: performanceTime }
        : { us: heardAt(out.context.currentTime), pageMs: performance.now() };
    },
    put: (piece) => {
      if (!out) return;
      const voice = playPiece(out, piece, start.at + (piece.us - start.us) / 1e6 / speed, speed);
      if (!voice) return;
      voices.add(voice);
      voice.onended = () => voices.delete(voice);
    },
    silence: () => {
      for (const voice of voices) voice.stop();
      voices.clear();
    },
    speed: () => speed,
    setSpeed: (next) => {
      speed = next;
      connect();
    },
    setVolume: (next) => {
      volume = next;
      // A hundredth of a second, so that nothing clicks.
      out?.master.gain.setTargetAtTime(next, out.context.currentTime, 0.01);
    },
    close: () => void out?.context.close(),
  };
}

/** @param at instant of the context at which it begins @returns null where it is over already */
function playPiece(
  { context, master }: { context: AudioContext; master: GainNode },
  { planes, sampleRate, gainDb }: Piece,
  at: number,
  speed: number,
): AudioBufferSourceNode | null {
  const buffer = context.createBuffer(planes.length, planes[0]?.length ?? 1, sampleRate);
  for (const [i, plane] of planes.entries()) buffer.copyToChannel(plane, i);
  const late = (context.currentTime - at) * speed;
  if (late >= buffer.duration) return null;
  const voice = new AudioBufferSourceNode(context, { buffer, playbackRate: speed });
  const gain = new GainNode(context, { gain: 10 ** (gainDb / 20) });
  voice.connect(gain).connect(master);
  voice.start(Math.max(at, 0), Math.max(0, late));
  return voice;
}
