import { gainOf } from '../decibels';

export type CompressorWish = {
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
/** Samples between two gains that are reckoned. */
const GAIN_EVERY = 8;

/**
 * Brings loud and quiet words nearer to each other: feed-forward, soft knee, in the logarithmic domain with a smooth decoupled peak
 * detector (D. Giannoulis, M. Massberg, J. D. Reiss, "Digital Dynamic Range Compressor Design", JAES 60, 2012, equations 4 and 17).
 * @returns works in place, without delay
 */
export function openCompressor(
  { thresholdDb, ratio, makeupDb }: CompressorWish,
  sampleRate: number,
): (samples: Float32Array) => void {
  const attack = Math.exp(-1 / (ATTACK_S * sampleRate));
  const release = Math.exp(-1 / (RELEASE_S * sampleRate));
  const slope = 1 - 1 / ratio;
  let [peak, smooth] = [0, 0];
  let [gain, step, left] = [gainOf(makeupDb), 0, 0];
  const untouched = gainOf(thresholdDb - KNEE_DB / 2);
  /** Gain reduction, dB, of a level. */
  const reduction = (levelDb: number): number => {
    const over = levelDb - thresholdDb;
    if (2 * over < -KNEE_DB) return 0;
    if (2 * over > KNEE_DB) return slope * over;
    return (slope * (over + KNEE_DB / 2) ** 2) / (2 * KNEE_DB);
  };
  return (samples) => {
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      const size = Math.abs(x);
      const wanted = size > untouched ? reduction(20 * Math.log10(size)) : 0;
      peak = Math.max(wanted, release * peak + (1 - release) * wanted);
      smooth = attack * smooth + (1 - attack) * peak;
      if (left === 0) {
        // It moves so slowly that a straight line over a few samples is the same curve.
        step = (gainOf(makeupDb - smooth) - gain) / GAIN_EVERY;
        left = GAIN_EVERY;
      }
      gain += step;
      left--;
      samples[i] = x * gain;
    }
  };
}
