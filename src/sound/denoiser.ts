import createRnnoise from '@jitsi/rnnoise-wasm/dist/rnnoise.js';
import type { Denoiser } from '@/core/treatment/treatment-line';
import { RNNOISE_WASM } from './names';

/** 10 ms at 48 kHz: what the network was trained on. */
const FRAME = 480;
/** Blocks overlap by half: what comes out of one belongs to the one before. */
const DELAY = 480;
/** It knows samples as 16-bit numbers. */
const SCALE = 32_768;

/**
 * Noise reduction by a small recurrent network (J.-M. Valin, "A hybrid DSP/deep learning approach to real-time full-band speech
 * enhancement", MMSP 2018), as its WebAssembly package computes it.
 * @param wasm the package's `rnnoise.wasm`
 * @returns makes denoisers, each with a memory of its own
 */
export async function loadDenoiser(wasm: ArrayBuffer): Promise<() => Denoiser> {
  const rnnoise = await createRnnoise({ wasmBinary: wasm });
  return () => {
    const state = rnnoise._rnnoise_create();
    const place = rnnoise._malloc(FRAME * Float32Array.BYTES_PER_ELEMENT);
    return {
      frame: FRAME,
      delay: DELAY,
      denoise: (block) => {
        // The memory may have grown and moved since the last time.
        const samples = rnnoise.HEAPF32.subarray(place / 4, place / 4 + FRAME);
        for (let i = 0; i < FRAME; i++) samples[i] = (block[i] as number) * SCALE;
        rnnoise._rnnoise_process_frame(state, place, place);
        for (let i = 0; i < FRAME; i++) block[i] = (samples[i] as number) / SCALE;
      },
    };
  };
}

let fetched: Promise<() => Denoiser> | null = null;

/** The same in a browser, fetched from the studio once. */
export function fetchDenoiser(): Promise<() => Denoiser> {
  fetched ??= fetch(RNNOISE_WASM)
    .then((response) => response.arrayBuffer())
    .then(loadDenoiser);
  return fetched;
}
