import { z } from 'zod';
import { dbText } from '../base/decibels';
import { SPOKEN_LUFS } from '../destination/destination';
import { openHum } from './hum';
import { type Loudness, openLoudness } from './loudness';

/** Measurements of a sound besides its level; null while unknown. */
export const Heard = z.object({
  /** Over the last three seconds. */
  shortTermLufs: z.number().nullable(),
  /** How loud it is where nobody speaks: the quietest twentieth of the last half minute, looked at by tenths of a second. */
  quietLufs: z.number().nullable(),
  /** The highest peak of the last ten seconds, dBTP. */
  peakDbtp: z.number().nullable(),
  /** Samples at full scale, in a row, since the source was opened. */
  clipped: z.int().min(0),
  /** The hum of the mains, while it is there all the time. */
  hum: z.object({ hertz: z.union([z.literal(50), z.literal(60)]), levelDb: z.number() }).nullable(),
  /** Two channels that are the same sound, or of which one is silent; null where they differ, and of one channel. */
  oneChannel: z.enum(['same', 'silent']).nullable(),
});
export type Heard = z.infer<typeof Heard>;

const LOOKS_A_SECOND = 4;
const KEPT_S = 30;
/** Before that nobody need have paused. */
const LEAST_LOOKS = 6 * LOOKS_A_SECOND;
/** Share of the time in which surely nobody speaks: between words, and while somebody breathes. */
export const PAUSED = 0.05;
const PEAK_LOOKS = 10 * LOOKS_A_SECOND;
/** So many samples in a row at full scale are no peak that just touches it. */
const CLIPPED_RUN = 3;
const FULL_SCALE = 0.999;

const known = (value: number): number | null => (Number.isFinite(value) ? Math.round(value * 10) / 10 : null);

/** Counts runs of samples at full scale: a converter that is driven too hard. */
function openClipping(): { push: (plane: Float32Array) => void; runs: () => number } {
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

/** Compares two channels. @returns what they were in all that came; null where they differ, and while nothing was heard */
export function openChannels(): {
  push: (planes: readonly Float32Array[]) => void;
  oneChannel: () => Heard['oneChannel'];
} {
  let [left, right, apart] = [0, 0, 0];
  return {
    push: ([a, b]) => {
      if (!a || !b) return;
      for (let i = 0; i < a.length; i++) {
        const [x, y] = [a[i] as number, b[i] as number];
        left += x * x;
        right += y * y;
        apart += (x - y) * (x - y);
      }
    },
    oneChannel: () => {
      const [loud, quiet] = [Math.max(left, right), Math.min(left, right)];
      // Under a hundred-thousandth: 50 dB down.
      return loud === 0 ? null : quiet < loud * 1e-5 ? 'silent' : apart < loud * 1e-5 ? 'same' : null;
    },
  };
}

/** What listens to a sound, part by part. */
export type Ears = {
  loudness: Loudness;
  clipped: () => number;
  hum: () => Heard['hum'];
  oneChannel: () => Heard['oneChannel'];
};

/** Everything that is heard of a sound at a rate, with these channels. */
export function openEars(
  sampleRate: number,
  channels: number,
): Ears & { push: (planes: Float32Array[]) => void } {
  const clipping = openClipping();
  const loudness = openLoudness(sampleRate, channels, KEPT_S);
  const { push: pushHum, hum } = openHum(sampleRate);
  const { push: pushChannels, oneChannel } = openChannels();
  return {
    loudness,
    clipped: clipping.runs,
    hum,
    oneChannel,
    push: (planes) => {
      loudness.push(planes);
      for (const plane of planes) clipping.push(plane);
      if (planes[0]) pushHum(planes[0]);
      pushChannels(planes);
    },
  };
}

/** Follows what listens, four looks a second. */
export function openHearing({ loudness: meter, clipped, hum, oneChannel }: Ears): (peakDb: number) => Heard {
  const peaks: number[] = [];
  let looks = 0;
  return (peakDb) => {
    looks++;
    peaks.push(peakDb);
    if (peaks.length > PEAK_LOOKS) peaks.shift();
    return {
      shortTermLufs: known(meter.shortTerm()),
      quietLufs: looks < LEAST_LOOKS ? null : known(meter.quiet(PAUSED)),
      peakDbtp: known(Math.max(...peaks)),
      clipped: clipped(),
      hum: hum(),
      oneChannel: oneChannel(),
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
    return peakDbtp === null ? null : `Peaks reach ${dbText(peakDbtp)} dB: turn it down a little.`;
  const missing = WELL_PEAKING_DB - peakDbtp;
  // A pause is no quiet voice.
  return missing > NEAR_DB && peakDbtp > -50
    ? `Quiet: ${missing.toFixed(0)} dB more gain would bring its peaks near ${dbText(WELL_PEAKING_DB)} dB.`
    : null;
}

/** Softer than this, speech is hard to raise without its noise, however high single peaks are. */
const QUIET_SPEECH_LUFS = -36;
/** What 16 bits can hold ends near here; nothing below is a measurement. */
export const LEAST_SAID_LUFS = -90;

/** "−24 LUFS"; "below −90 LUFS" where there is nothing to measure. */
export const lufsText = (lufs: number): string =>
  lufs < LEAST_SAID_LUFS ? `below ${dbText(LEAST_SAID_LUFS)} LUFS` : `${dbText(lufs)} LUFS`;

/**
 * What a voice's level comes to, of its peaks and its loudness, and what an export makes of it.
 * @returns null while nothing was heard
 */
export function levelVerdict(heard: Heard): { good: boolean; sentence: string } | null {
  const { peakDbtp, shortTermLufs } = heard;
  if (peakDbtp === null || peakDbtp <= -50 || shortTermLufs === null) return null;
  const advice = gainAdvice(heard);
  if (advice) return { good: false, sentence: advice };
  const figures = `peaks ${dbText(peakDbtp)} dBTP, loudness ${lufsText(shortTermLufs)}`;
  if (shortTermLufs < QUIET_SPEECH_LUFS)
    return { good: false, sentence: `Quiet speech: ${figures}. Move closer to the microphone.` };
  const byDb = Math.round(SPOKEN_LUFS - shortTermLufs);
  const exported =
    byDb === 0
      ? 'Export leaves it as it is'
      : `Export ${byDb > 0 ? 'raises' : 'lowers'} it by ${Math.abs(byDb)} dB`;
  return { good: true, sentence: `Good level: ${figures}. ${exported} (to ${dbText(SPOKEN_LUFS)} LUFS).` };
}

/** Whether room noise is audible. @returns its distance below the voice, LU; null when it is inaudible */
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
