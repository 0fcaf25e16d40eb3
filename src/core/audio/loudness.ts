import { percentile } from '../base/percentile';

/**
 * Loudness and true peak of sound while it comes: Recommendation ITU-R BS.1770-4. Channels are weighted alike, which holds for
 * one (mono) and two (left, right).
 */
export type Loudness = {
  /** Takes the next samples, one plane a channel, full scale 1. */
  readonly push: (planes: readonly Float32Array[]) => void;
  /** Over the last 0.4 s (EBU Tech 3341, "M"), LUFS; −∞ for silence. */
  readonly momentary: () => number;
  /** Over the last 3 s (EBU Tech 3341, "S"), LUFS. */
  readonly shortTerm: () => number;
  /** What a share (0…1) of the tenths of a second that are looked back at were quieter than, LUFS: speech pauses for so long now and then. */
  readonly quiet: (share: number) => number;
  /** Of everything that is looked back at, gated (annex 1), LUFS; −∞ while nothing was louder than the gate. */
  readonly integrated: () => number;
  /** The highest since the beginning, dBTP (annex 2); −∞ for silence. */
  readonly truePeak: () => number;
};

/** A biquad in direct form II transposed, one state for each channel. */
type Biquad = { b: readonly [number, number, number]; a: readonly [number, number] };

/**
 * The two stages of the K weighting for any sample rate: the tables of annex 1 hold for 48 kHz; these are the analogue filters behind
 * them (Mansbridge, Finn, Reiss, "Implementation and evaluation of autonomous multi-track fader control", AES 132, 2012), transformed
 * bilinearly.
 */
export function kWeighting(sampleRate: number): [shelf: Biquad, highPass: Biquad] {
  const shelf = (): Biquad => {
    const [f, gainDb, q] = [1681.974450955533, 3.999843853973347, 0.7071752369554196];
    const k = Math.tan((Math.PI * f) / sampleRate);
    const high = 10 ** (gainDb / 20);
    const band = high ** 0.4996667741545416;
    const norm = 1 + k / q + k * k;
    return {
      b: [
        (high + (band * k) / q + k * k) / norm,
        (2 * (k * k - high)) / norm,
        (high - (band * k) / q + k * k) / norm,
      ],
      a: [(2 * (k * k - 1)) / norm, (1 - k / q + k * k) / norm],
    };
  };
  const highPass = (): Biquad => {
    const [f, q] = [38.13547087602444, 0.5003270373238773];
    const k = Math.tan((Math.PI * f) / sampleRate);
    const norm = 1 + k / q + k * k;
    return { b: [1, -2, 1], a: [(2 * (k * k - 1)) / norm, (1 - k / q + k * k) / norm] };
  };
  return [shelf(), highPass()];
}

/** Loudness of a mean square: annex 1, equation 2. */
export const lufs = (meanSquare: number): number =>
  meanSquare > 0 ? -0.691 + 10 * Math.log10(meanSquare) : Number.NEGATIVE_INFINITY;

export const STEPS_A_SECOND = 10;
const MOMENTARY_STEPS = 4;
const SHORT_STEPS = 30;
/** Annex 1: blocks under the absolute gate do not count, nor those 10 LU under the mean of the others. */
const ABSOLUTE_GATE = -70;
const RELATIVE_GATE_LU = -10;

/** Four samples where there was one: annex 2 asks for 192 kHz at least. */
const OVERSAMPLED = 4;
const TAPS = 24;

/** Windowed sinc for the three samples between two; the fourth is the sample itself. */
const PHASES: readonly Float64Array[] = Array.from({ length: OVERSAMPLED }, (_, phase) =>
  Float64Array.from({ length: TAPS }, (__, i) => {
    const x = i - TAPS / 2 + 1 - phase / OVERSAMPLED;
    const window = 0.5 + 0.5 * Math.cos((2 * Math.PI * x) / (TAPS + 1));
    return (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * window;
  }),
);

type History = { line: Float64Array; at: number };

/** K-weighted energy of sound while it comes. */
export type EnergyMeter = {
  readonly push: (planes: readonly Float32Array[]) => void;
  /** Mean square of all channels of each tenth of a second that is over. */
  readonly steps: number[];
};

/** @param keptS seconds that are looked back at */
export function openEnergy(
  sampleRate: number,
  channels: number,
  keptS = Number.POSITIVE_INFINITY,
): EnergyMeter {
  const [shelf, highPass] = kWeighting(sampleRate);
  const state = Array.from({ length: channels }, () => new Float64Array(4));
  const step = Math.round(sampleRate / STEPS_A_SECOND);
  const steps: number[] = [];
  let [sum, filled] = [0, 0];
  const weigh = (sample: number, z: Float64Array): number => {
    const first = shelf.b[0] * sample + (z[0] as number);
    z[0] = shelf.b[1] * sample - shelf.a[0] * first + (z[1] as number);
    z[1] = shelf.b[2] * sample - shelf.a[1] * first;
    const second = first + (z[2] as number);
    z[2] = -2 * first - highPass.a[0] * second + (z[3] as number);
    z[3] = first - highPass.a[1] * second;
    return second;
  };
  return {
    steps,
    push: (planes) => {
      const frames = planes[0]?.length ?? 0;
      for (let i = 0; i < frames; i++) {
        for (let c = 0; c < channels; c++) {
          const weighted = weigh(planes[c]?.[i] ?? 0, state[c] as Float64Array);
          sum += weighted * weighted;
        }
        if (++filled < step) continue;
        steps.push(sum / step);
        if (steps.length > keptS * STEPS_A_SECOND) steps.shift();
        [sum, filled] = [0, 0];
      }
    },
  };
}

/** @param keptS seconds that are looked back at; a meter that runs for hours need not know how it began */
export function openLoudness(
  sampleRate: number,
  channels: number,
  keptS = Number.POSITIVE_INFINITY,
): Loudness {
  const energy = openEnergy(sampleRate, channels, keptS);
  const { steps } = energy;
  let peak = 0;
  /** Each sample stands twice, so that the last `TAPS` always lie in one piece. */
  const history = Array.from({ length: channels }, () => ({ line: new Float64Array(2 * TAPS), at: 0 }));

  const mean = (last: number) => {
    const part = steps.slice(-last);
    return part.length === 0 ? 0 : part.reduce((a, b) => a + b, 0) / last;
  };

  const between = (sample: number, last: History): void => {
    const { line } = last;
    line[last.at] = sample;
    line[last.at + TAPS] = sample;
    last.at = (last.at + 1) % TAPS;
    const first = last.at;
    const own = Math.abs(sample);
    if (own > peak) peak = own;
    // Between quiet samples no peak can be higher than the highest that there was.
    if (own < peak / 4 && Math.abs(line[first + TAPS / 2] as number) < peak / 4) return;
    for (let phase = 1; phase < OVERSAMPLED; phase++) {
      const taps = PHASES[phase] as Float64Array;
      let value = 0;
      for (let i = 0; i < TAPS; i++) value += (line[first + i] as number) * (taps[i] as number);
      if (Math.abs(value) > peak) peak = Math.abs(value);
    }
  };

  return {
    push: (planes) => {
      energy.push(planes);
      const frames = planes[0]?.length ?? 0;
      for (let i = 0; i < frames; i++)
        for (let c = 0; c < channels; c++) between(planes[c]?.[i] ?? 0, history[c] as History);
    },
    momentary: () => lufs(mean(MOMENTARY_STEPS)),
    shortTerm: () => lufs(mean(SHORT_STEPS)),
    quiet: (share) => (steps.length === 0 ? Number.NEGATIVE_INFINITY : lufs(percentile(steps, share))),
    integrated: () => integratedLufs(steps),
    truePeak: () => (peak > 0 ? 20 * Math.log10(peak) : Number.NEGATIVE_INFINITY),
  };
}

/**
 * Annex 1, equations 5 to 7: blocks of 0.4 s that overlap by three quarters, gated twice.
 * @param steps mean squares of tenths of a second
 * @returns −∞ where nothing is louder than the gate
 */
export function integratedLufs(steps: readonly number[]): number {
  const blocks: number[] = [];
  for (let i = MOMENTARY_STEPS; i <= steps.length; i++) {
    let block = 0;
    for (let k = i - MOMENTARY_STEPS; k < i; k++) block += (steps[k] as number) / MOMENTARY_STEPS;
    if (lufs(block) > ABSOLUTE_GATE) blocks.push(block);
  }
  const meanOf = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  if (blocks.length === 0) return Number.NEGATIVE_INFINITY;
  const gate = lufs(meanOf(blocks)) + RELATIVE_GATE_LU;
  return lufs(meanOf(blocks.filter((block) => lufs(block) > gate)));
}
