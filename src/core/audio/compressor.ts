import { gainOf } from '../base/decibels';

export type CompressorSettings = {
  /** Level from which it works, dBFS. */
  thresholdDb: number;
  /** So many decibels over it become one. */
  ratio: number;
  /** Added to everything afterwards. */
  makeupDb: number;
};

const ATTACK_S = 0.01;
const RELEASE_S = 0.15;
const KNEE_DB = 12;
/** Samples whose loudest is looked at together. */
const LOOK_EVERY = 8;

/**
 * Brings loud and quiet words nearer to each other: feed-forward, soft knee, in the logarithmic domain with a smooth decoupled peak
 * detector (D. Giannoulis, M. Massberg, J. D. Reiss, "Digital Dynamic Range Compressor Design", JAES 60, 2012, equations 4 and 17).
 * @returns works in place, without delay
 */
export function openCompressor(
  { thresholdDb, ratio, makeupDb }: CompressorSettings,
  sampleRate: number,
): (samples: Float32Array) => void {
  const attack = Math.exp(-LOOK_EVERY / (ATTACK_S * sampleRate));
  const release = Math.exp(-LOOK_EVERY / (RELEASE_S * sampleRate));
  const slope = 1 - 1 / ratio;
  const untouched = gainOf(thresholdDb - KNEE_DB / 2);
  let [peak, smooth, gainNow, stepNow, leftNow, loudestNow] = [0, 0, gainOf(makeupDb), 0, LOOK_EVERY, 0];
  /** Gain reduction, dB, of a level. */
  const reduction = (levelDb: number): number => {
    const over = levelDb - thresholdDb;
    if (2 * over < -KNEE_DB) return 0;
    if (2 * over > KNEE_DB) return slope * over;
    return (slope * (over + KNEE_DB / 2) ** 2) / (2 * KNEE_DB);
  };
  /** The gain that its detector comes to, of the loudest of some samples. */
  const look = (loudest: number): number => {
    const wanted = loudest > untouched ? reduction(20 * Math.log10(loudest)) : 0;
    peak = Math.max(wanted, release * peak + (1 - release) * wanted);
    smooth = attack * smooth + (1 - attack) * peak;
    return gainOf(makeupDb - smooth);
  };
  return (samples) => {
    // Numbers that change with every sample are kept beside while a block is worked on.
    let gain = gainNow;
    let step = stepNow;
    let left = leftNow;
    let loudest = loudestNow;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      const size = x < 0 ? -x : x;
      if (size > loudest) loudest = size;
      gain += step;
      samples[i] = x * gain;
      if (--left > 0) continue;
      // It moves so slowly that a straight line over a few samples is the same curve.
      step = (look(loudest) - gain) / LOOK_EVERY;
      left = LOOK_EVERY;
      loudest = 0;
    }
    gainNow = gain;
    stepNow = step;
    leftNow = left;
    loudestNow = loudest;
  };
}
