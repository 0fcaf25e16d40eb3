/** Mains hum: its frequency and level. */
export type Hum = { hertz: 50 | 60; levelDb: number };

const MAINS = [50, 60] as const;
const HARMONICS = [1, 2, 3];
/** Beside a harmonic, and beside none of the other mains'. */
const BESIDE_HZ = 7;
/** A harmonic stands out so far above what lies beside it; speech moves and does not. */
const ABOVE_DB = 12;
const LEAST_STANDING = 2;
/** Quieter hum is not heard. */
const LEAST_DB = -66;
/** So many samples become one before it is looked at: hum is slow. */
const GATHERED = 16;
/** Hum is always there: looked for in each of the last seconds. */
const SECONDS = 5;
const LEAST_SECONDS = 3;

/** Power of one frequency under a Hann window, by G. Goertzel's recurrence (1958); amplitude 1 is 1. */
function powerAt(samples: Float32Array, hertz: number, rate: number): number {
  const w = (2 * Math.PI * hertz) / rate;
  const coefficient = 2 * Math.cos(w);
  let [s1, s2] = [0, 0];
  const n = samples.length;
  for (let i = 0; i < n; i++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / n);
    const s = (samples[i] as number) * window + coefficient * s1 - s2;
    s2 = s1;
    s1 = s;
  }
  // Half of a Hann window's weight is gone, and half of a real tone lies at the negative frequency.
  return ((s1 * s1 + s2 * s2 - coefficient * s1 * s2) * 16) / (n * n);
}

const decibelsOf = (power: number) => 10 * Math.log10(Math.max(1e-14, power));

/** The hum in one second, dBFS of each mains; −∞ where none stands out. */
function humIn(second: Float32Array, rate: number): number[] {
  return MAINS.map((mains) => {
    let [standing, sum] = [0, 0];
    for (const harmonic of HARMONICS) {
      const hertz = mains * harmonic;
      const own = powerAt(second, hertz, rate);
      const beside = Math.max(
        powerAt(second, hertz - BESIDE_HZ, rate),
        powerAt(second, hertz + BESIDE_HZ, rate),
      );
      if (decibelsOf(own) - decibelsOf(beside) < ABOVE_DB || decibelsOf(own) < LEAST_DB) continue;
      standing++;
      sum += own;
    }
    return standing >= LEAST_STANDING ? decibelsOf(sum) : Number.NEGATIVE_INFINITY;
  });
}

/** Listens for the hum of the mains, one channel. @returns takes samples; `hum` is what was there in all of the last seconds */
export function openHum(sampleRate: number): {
  push: (samples: Float32Array) => void;
  hum: () => Hum | null;
} {
  const rate = sampleRate / GATHERED;
  const second = new Float32Array(Math.round(rate));
  let [at, sum, gathered] = [0, 0, 0];
  const seconds: number[][] = [];
  return {
    push: (samples) => {
      for (const sample of samples) {
        sum += sample;
        if (++gathered < GATHERED) continue;
        second[at] = sum / GATHERED;
        [sum, gathered] = [0, 0];
        if (++at < second.length) continue;
        seconds.push(humIn(second, rate));
        if (seconds.length > SECONDS) seconds.shift();
        at = 0;
      }
    },
    hum: () => {
      if (seconds.length < LEAST_SECONDS) return null;
      const levels = MAINS.map((_, i) => Math.min(...seconds.map((each) => each[i] as number)));
      const [fifty = -Infinity, sixty = -Infinity] = levels;
      const [hertz, levelDb] = fifty >= sixty ? ([50, fifty] as const) : ([60, sixty] as const);
      return Number.isFinite(levelDb) ? { hertz, levelDb } : null;
    },
  };
}
