/** Level of silence as it is shown: the floor of 16-bit sound. */
export const SILENCE_DB = -96;

/** Amplitude (1 = full scale) in dBFS, not under `SILENCE_DB`. */
export const decibels = (amplitude: number): number =>
  amplitude <= 0 ? SILENCE_DB : Math.max(SILENCE_DB, 20 * Math.log10(amplitude));

/** Sample peak of a run of samples (amplitude, 1 = full scale). */
export function peakOf(samples: Float32Array): number {
  let peak = 0;
  for (const s of samples) {
    const a = s < 0 ? -s : s;
    if (a > peak) peak = a;
  }
  return peak;
}

/** The value below which `share` (0…1) of the figures lie, by the nearest rank; 0 for none. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.ceil(share * sorted.length) - 1))] ?? 0;
}
