/** Decodes the sounds of a cut ahead of the clock; what the clock has passed is left out, so that a slow machine is heard again. */
import type { TakeId } from '@/core/base/ids';
import { type Cut, type Placed, placedPieces, SPEED } from '@/core/cut/cut';
import { mixOf } from '@/core/cut/mix';
import type { SoundKind } from '@/core/recording/take';
import { enveloped } from './enveloped';
import type { DecodedSound, SoundTrack } from './reels';
import { stretched } from './stretched';

/** Sound is decoded this far ahead of playback. */
const AHEAD_US = 1_200_000;
/** Where the clock has passed what is decoded, decoding goes on this long after the place that is heard. */
const CATCH_UP_S = 0.3;

/** Who plays: its clock, and where the pieces go. */
export type Listener = {
  /** The place that is heard now. */
  nowUs: () => number;
  speed: () => number;
  /** The one sound that is heard; null for all of them. */
  solo: SoundKind | null;
  /** Resolves when the clock has been told again, or other sounds are wanted. */
  clockTold: () => Promise<unknown>;
  /** False once other sounds are wanted: then nothing more comes. */
  wanted: () => boolean;
  hear: (us: number, sound: DecodedSound, gainDb: number) => void;
};

/** Decodes from one time of a take to another. */
export type DecodeSound = (sound: SoundTrack, fromUs: number, untilUs: number) => AsyncIterable<DecodedSound>;

/** Hands one piece of the cut after another to the listener, from a place on. @throws what `decode` throws */
export async function sendSounds(
  cut: Cut,
  soundsOf: (take: TakeId) => SoundTrack[],
  fromUs: number,
  decode: DecodeSound,
  listener: Listener,
): Promise<void> {
  for (const placed of placedPieces(cut)) {
    const startUs = Math.max(fromUs, placed.startUs);
    // A picture that is held has no sound, and what runs too fast to be understood is silent.
    const isHeard = placed.piece.heldUs === undefined && placed.step.speed <= SPEED.mostHeard;
    if (placed.endUs <= startUs || !isHeard) continue;
    const sounds = soundsOf(placed.piece.take).filter(
      ({ kind }) => listener.solo === null || kind === listener.solo,
    );
    await Promise.all(sounds.map((sound) => sendSound(sound, placed, startUs, decode, listener)));
    if (!listener.wanted()) return;
  }
}

async function sendSound(
  sound: SoundTrack,
  placed: Placed,
  startUs: number,
  decode: DecodeSound,
  listener: Listener,
): Promise<void> {
  let fromUs: number | null = startUs;
  while (fromUs !== null && fromUs < placed.endUs && listener.wanted())
    fromUs = await sendFrom(sound, placed, fromUs, decode, listener);
}

/** @returns where to go on, where the clock passed what was decoded; null when all is sent or no longer wanted */
async function sendFrom(
  sound: SoundTrack,
  { piece, step, startUs, stepUs }: Placed,
  fromUs: number,
  decode: DecodeSound,
  { nowUs, speed, clockTold, wanted, hear }: Listener,
): Promise<number | null> {
  const { gainDb, points } = mixOf(step, sound.kind);
  const fromTakeUs = piece.inUs + Math.round((fromUs - startUs) * step.speed);
  for await (const decoded of stretched(decode(sound, fromTakeUs, piece.outUs), step.speed)) {
    const us = startUs + (decoded.takeUs - piece.inUs) / step.speed;
    while (wanted() && us > nowUs() + AHEAD_US) await clockTold();
    if (!wanted()) return null;
    hear(us, enveloped(decoded, points, stepUs + decoded.takeUs - piece.inUs, step.speed), gainDb);
    const endUs = us + ((decoded.planes[0]?.length ?? 0) * 1e6) / decoded.sampleRate;
    if (endUs < nowUs()) return Math.round(nowUs() + CATCH_UP_S * 1e6 * speed());
  }
  return null;
}
