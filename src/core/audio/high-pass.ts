/**
 * Takes away what lies below the voice: steps, wind, a table that is knocked on. Second order, Butterworth (Q = 1/√2: 12 dB an
 * octave, 3 dB down at its corner), by R. Bristow-Johnson, "Cookbook formulae for audio equalizer biquad filter coefficients", HPF.
 */
export function openHighPass(cornerHz: number, sampleRate: number): (samples: Float32Array) => void {
  const w = (2 * Math.PI * cornerHz) / sampleRate;
  const alpha = Math.sin(w) / Math.SQRT2;
  const a0 = 1 + alpha;
  const b0 = (1 + Math.cos(w)) / 2 / a0;
  const b1 = -2 * b0;
  const a1 = (-2 * Math.cos(w)) / a0;
  const a2 = (1 - alpha) / a0;
  // Transposed direct form II: two numbers of memory, kept beside while a block is worked on.
  const memory = new Float64Array(2);
  return (samples) => {
    let z1 = memory[0] as number;
    let z2 = memory[1] as number;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      const y = b0 * x + z1;
      z1 = b1 * x - a1 * y + z2;
      z2 = b0 * x - a2 * y;
      samples[i] = y;
    }
    memory[0] = z1;
    memory[1] = z2;
  };
}
