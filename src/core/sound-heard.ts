import { z } from 'zod';
import type { Loudness } from './loudness';
import { percentile } from './percentile';

/** What is heard of a sound beside its level. What is not known yet is null. */
export const Heard = z.object({
  /** Over the last three seconds. */
  shortTermLufs: z.number().nullable(),
  /** How loud it is where nobody speaks: what nine tenths of the last half minute were louder than. */
  quietLufs: z.number().nullable(),
  /** The highest peak of the last ten seconds, dBTP. */
  peakDbtp: z.number().nullable(),
  /** Samples at full scale, in a row, since the source was opened. */
  clipped: z.int().min(0),
});
export type Heard = z.infer<typeof Heard>;

const LOOKS_A_SECOND = 4;
const QUIET_LOOKS = 30 * LOOKS_A_SECOND;
const LEAST_LOOKS = 6 * LOOKS_A_SECOND;
const PEAK_LOOKS = 10 * LOOKS_A_SECOND;
/** So many samples in a row at full scale are no peak that just touches it. */
const CLIPPED_RUN = 3;
const FULL_SCALE = 0.999;

const known = (value: number): number | null => (Number.isFinite(value) ? Math.round(value * 10) / 10 : null);

/** Counts runs of samples at full scale: a converter that is driven too hard. */
export function openClipping(): { push: (plane: Float32Array) => void; runs: () => number } {
  let [row, runs] = [0, 0];
  return {
    push: (plane) => {
      for (const sample of plane) {
        if (sample < FULL_SCALE && sample > -FULL_SCALE) row = 0;
        else if (++row === CLIPPED_RUN) runs++;
      }
    },
    runs: () => runs,
  };
}

/** Follows a meter, four looks a second. */
export function openHearing(meter: Loudness, clipped: () => number): (peakDb: number) => Heard {
  const [momentaries, peaks]: [number[], number[]] = [[], []];
  return (peakDb) => {
    momentaries.push(meter.momentary());
    peaks.push(peakDb);
    if (momentaries.length > QUIET_LOOKS) momentaries.shift();
    if (peaks.length > PEAK_LOOKS) peaks.shift();
    return {
      shortTermLufs: known(meter.shortTerm()),
      quietLufs: momentaries.length < LEAST_LOOKS ? null : known(percentile(momentaries, 0.1)),
      peakDbtp: known(Math.max(...peaks)),
      clipped: clipped(),
    };
  };
}

/** Speech peaks well near this: loud, and never clipping. */
const WELL_PEAKING_DB = -6;
const NEAR_DB = 8;
/** A room that is so near under the voice is heard. */
const NOISE_UNDER_VOICE_LU = 30;
const LEAST_NOISE_LUFS = -58;
/** App sound is clearly under the voice from here on. */
const UNDER_VOICE_LU = 8;

/** What to do about a voice's gain; null when it is well. */
export function gainAdvice({ peakDbtp, clipped }: Heard): string | null {
  if (clipped > 0) return 'It clips: turn the microphone down.';
  if (peakDbtp === null || peakDbtp > -2)
    return peakDbtp === null ? null : `Peaks reach ${peakDbtp.toFixed(0)} dB: turn it down a little.`;
  const missing = WELL_PEAKING_DB - peakDbtp;
  // A pause is no quiet voice.
  return missing > NEAR_DB && peakDbtp > -50
    ? `Quiet: ${missing.toFixed(0)} dB more gain would bring its peaks near ${WELL_PEAKING_DB} dB.`
    : null;
}

/** Whether the room is near enough to the voice to be heard. @returns how far it lies under the voice, LU; null when it is well */
export function noisyRoom({ quietLufs, shortTermLufs }: Heard): number | null {
  if (quietLufs === null || shortTermLufs === null || quietLufs < LEAST_NOISE_LUFS) return null;
  const under = shortTermLufs - quietLufs;
  // While nobody speaks both are the room.
  return under > 6 && under < NOISE_UNDER_VOICE_LU ? under : null;
}

/** How far app sound lies under the voice, LU; null while one of them is silent. @param gainDb of app sound in the plain video */
export function underVoice(voice: Heard, app: Heard, gainDb: number): number | null {
  if (voice.shortTermLufs === null || app.shortTermLufs === null) return null;
  if (voice.shortTermLufs < -50 || app.shortTermLufs < -60) return null;
  return voice.shortTermLufs - (app.shortTermLufs + gainDb);
}
export const tooClose = (underLu: number): boolean => underLu < UNDER_VOICE_LU;
