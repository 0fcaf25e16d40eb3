import type { SoundKind } from '../recording/take';
import type { Gains, Step } from './cut';
import type { EnvelopePoint, EnvelopeSound } from './envelope';

/** Under which names a step keeps what it does to a sound. */
export const MIX_KEYS = {
  voice: { gain: 'voiceDb', envelope: 'voice' },
  'app-sound': { gain: 'appSoundDb', envelope: 'appSound' },
} as const satisfies Record<SoundKind, { gain: keyof Gains; envelope: EnvelopeSound }>;

/** The gain of a sound, dB, and the points that move it. */
export type Mix = { gainDb: number; points: readonly EnvelopePoint[] };

/** How a sound is mixed. */
export const mixOf = ({ gains, envelopes }: Pick<Step, 'gains' | 'envelopes'>, sound: SoundKind): Mix => ({
  gainDb: gains[MIX_KEYS[sound].gain],
  points: envelopes[MIX_KEYS[sound].envelope],
});
