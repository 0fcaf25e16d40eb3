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

/** What a level is multiplied by, of a gain in decibels. */
export const gainOf = (db: number): number => 10 ** (db / 20);

/** A gain in words: "+3 dB", "−6 dB", "0 dB". */
export const gainText = (db: number): string =>
  `${db > 0 ? '+' : db < 0 ? '−' : ''}${Math.abs(Math.round(db))} dB`;

/** A level in words: "−12". */
export const dbText = (db: number): string => String(Math.round(db)).replace('-', '−');
