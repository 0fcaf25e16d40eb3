import type { Denoiser } from '@/core/audio/treatment-line';
import { RNNOISE_WASM } from './names';

/** 10 ms at 48 kHz: what the network was trained on. */
const FRAME = 480;
/** Blocks overlap by half: what comes out of one belongs to the one before. */
const DELAY = 480;
/** It knows samples as 16-bit numbers. */
const SCALE = 32_768;

type Rnnoise = {
  memory: WebAssembly.Memory;
  __wasm_call_ctors: () => void;
  malloc: (bytes: number) => number;
  /** @param model 0 is the one that is built in */
  rnnoise_create: (model: number) => number;
  /** @returns how likely it is that somebody speaks, 0…1 */
  rnnoise_process_frame: (state: number, out: number, input: number) => number;
};

/**
 * Noise reduction by a small recurrent network (J.-M. Valin, "A hybrid DSP/deep learning approach to real-time full-band speech
 * enhancement", MMSP 2018), as a WebAssembly package computes it.
 * @param wasm the package's `rnnoise_simd.wasm`
 * @returns makes denoisers, each with a memory of its own
 */
export async function loadDenoiser(wasm: BufferSource): Promise<() => Denoiser> {
  const module = await WebAssembly.compile(wasm);
  return () => {
    const env = {
      // Gives nothing back: the whole memory would be made a number.
      emscripten_memcpy_big: (to: number, from: number, bytes: number): void => {
        new Uint8Array(rnnoise.memory.buffer).copyWithin(to, from, from + bytes);
      },
      // It asks for memory once, at the beginning, and has it.
      emscripten_resize_heap: () => 0,
      __assert_fail: () => {
        throw new Error('Noise reduction failed.');
      },
    };
    const rnnoise = new WebAssembly.Instance(module, { env }).exports as Rnnoise;
    rnnoise.__wasm_call_ctors();
    const state = rnnoise.rnnoise_create(0);
    const place = rnnoise.malloc(FRAME * Float32Array.BYTES_PER_ELEMENT);
    const samples = new Float32Array(rnnoise.memory.buffer, place, FRAME);
    return {
      frame: FRAME,
      delay: DELAY,
      denoise: (block) => {
        for (let i = 0; i < FRAME; i++) samples[i] = (block[i] as number) * SCALE;
        rnnoise.rnnoise_process_frame(state, place, place);
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
