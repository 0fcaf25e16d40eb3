import { openCompressor } from './compressor';
import { GATE_AHEAD_S, openGate } from './gate';
import { openHighPass } from './high-pass';
import { openSoundResampler } from './sound-resample';
import type { Treatment } from './treatment';

/** Sound is treated at this rate: the one that noise reduction was trained at. */
export const TREATMENT_RATE = 48_000;

/** Takes noise out of a block of so many samples, in place, full scale 1; what comes out is `delay` samples late. */
export type Denoiser = { frame: number; delay: number; denoise: (block: Float32Array) => void };

export type TreatmentLine = {
  /** Takes samples at `TREATMENT_RATE`. @returns as many, `delay` samples late */
  readonly push: (samples: Float32Array) => Float32Array;
  readonly delay: number;
};

/**
 * A voice's treatment while it comes, one channel.
 * @param denoiser needed only for noise reduction
 */
export function openTreatment(treatment: Treatment, denoiser: () => Denoiser): TreatmentLine {
  const { highPassHz, denoise, gateDb, compressor } = treatment;
  const stages: ((samples: Float32Array) => void)[] = [];
  let delay = 0;
  if (highPassHz !== null) stages.push(openHighPass(highPassHz, TREATMENT_RATE));
  if (denoise) {
    const own = denoiser();
    stages.push(inBlocks(own));
    delay += own.frame + own.delay;
  }
  if (gateDb !== null) {
    stages.push(openGate(gateDb, TREATMENT_RATE));
    delay += Math.round(GATE_AHEAD_S * TREATMENT_RATE);
  }
  if (compressor) stages.push(openCompressor(compressor, TREATMENT_RATE));
  return {
    delay,
    push: (samples) => {
      const out = samples.slice();
      for (const stage of stages) stage(out);
      return out;
    },
  };
}

/** Noise reduction works on whole blocks and delays the sound by one. */
function inBlocks({ frame, denoise }: Denoiser): (samples: Float32Array) => void {
  const block = new Float32Array(frame);
  let at = 0;
  return (samples) => {
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      // The place holds what was made of the block before.
      samples[i] = block[at] as number;
      block[at] = x;
      if (++at < frame) continue;
      denoise(block);
      at = 0;
    }
  };
}

/** Treats a whole sound that is there already. @returns as many samples, none of them late */
export function treated(samples: Float32Array, treatment: Treatment, denoiser: () => Denoiser): Float32Array {
  const line = openTreatment(treatment, denoiser);
  const padded = new Float32Array(samples.length + line.delay);
  padded.set(samples);
  return line.push(padded).subarray(line.delay);
}

/**
 * Treats what comes from a device at any rate.
 * @returns like a resampler: what can be made so far, and when its first sample lies from the first of those given, seconds
 */
export function openLiveTreatment(treatment: Treatment, deviceRate: number, denoiser: () => Denoiser) {
  const line = openTreatment(treatment, denoiser);
  const resampler = deviceRate === TREATMENT_RATE ? null : openSoundResampler(deviceRate, TREATMENT_RATE, 1);
  return (samples: Float32Array): { samples: Float32Array; offsetS: number } => {
    const { planes, offsetS } = resampler?.push([samples]) ?? { planes: [samples], offsetS: 0 };
    const [plane = new Float32Array(0)] = planes;
    return { samples: line.push(plane), offsetS: offsetS - line.delay / TREATMENT_RATE };
  };
}
