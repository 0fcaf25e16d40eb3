/** Zero crossings of the filter on each side, at the lower of both rates: steep enough that 95 % of its band passes. */
const CROSSINGS = 40;
/** Kaiser's shape: what should not pass is 80 dB down (Kaiser, Schafer, "On the use of the I0-sinh window for spectrum analysis", 1980). */
const BETA = 8;
/** Share of the lower rate's half that passes; the rest is the slope. */
const PASSED = 0.95;

/** Modified Bessel function of the first kind and order zero, by its series. */
function besselI0(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

export type SoundResampler = {
  /**
   * Takes the next samples, one plane a channel.
   * @returns what can be made of everything so far, and when its first sample lies from the first of these, seconds (before it:
   *   a filter hears what comes)
   */
  readonly push: (planes: readonly Float32Array[]) => { planes: Float32Array[]; offsetS: number };
};

/**
 * Brings sound from one sample rate to another, with a low-pass first: what the lower rate cannot carry would fold into what it can.
 * Rates are whole numbers of samples per second; their ratio is kept exactly, however long it runs.
 */
export function openSoundResampler(fromRate: number, toRate: number, channels: number): SoundResampler {
  const shared = gcd(fromRate, toRate);
  const [up, down] = [toRate / shared, fromRate / shared];
  const cutoff = 0.5 * PASSED * Math.min(1, toRate / fromRate);
  const half = Math.ceil(CROSSINGS * Math.max(1, fromRate / toRate));
  const taps = 2 * half;
  /** One row of weights for each place that a sample can have between two. */
  const weights = Array.from({ length: up }, (_, phase) => {
    const row = Float32Array.from({ length: taps }, (__, i) => {
      const x = i - half + 1 - phase / up;
      const window = besselI0(BETA * Math.sqrt(Math.max(0, 1 - (x / half) ** 2))) / besselI0(BETA);
      const angle = 2 * Math.PI * cutoff * x;
      return (x === 0 ? 1 : Math.sin(angle) / angle) * 2 * cutoff * window;
    });
    const sum = row.reduce((a, b) => a + b, 0);
    return row.map((weight) => weight / sum);
  });
  // Before the beginning there was silence.
  let held = Array.from({ length: channels }, () => new Float32Array(half - 1));
  /** Index of the first held sample among all that came. */
  let first = -(half - 1);
  let [came, made] = [0, 0];
  return {
    push: (planes) => {
      const before = came;
      const count = planes[0]?.length ?? 0;
      came += count;
      held = held.map((old, c) => {
        const all = new Float32Array(old.length + count);
        all.set(old);
        all.set(planes[c] ?? new Float32Array(count), old.length);
        return all;
      });
      const start = made;
      // Sample n lies at n × down / up, and needs `half` that came after it.
      const ready = Math.max(0, Math.floor(((came - half - 1) * up) / down) + 1 - made);
      const out = held.map(() => new Float32Array(ready));
      for (let k = 0; k < ready; k++, made++) {
        const middle = Math.floor((made * down) / up);
        const row = weights[(made * down) % up] as Float32Array;
        const at = middle - half + 1 - first;
        held.forEach((samples, c) => {
          let sum = 0;
          for (let i = 0; i < taps; i++) sum += (samples[at + i] as number) * (row[i] as number);
          (out[c] as Float32Array)[k] = sum;
        });
      }
      const keep = Math.floor((made * down) / up) - half + 1 - first;
      if (keep > 0) {
        held = held.map((samples) => samples.slice(keep));
        first += keep;
      }
      return { planes: out, offsetS: start / toRate - before / fromRate };
    },
  };
}
