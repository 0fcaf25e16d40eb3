/** What `wasm/scaled-picture.ts` exports: addresses and strides in bytes, widths in samples, weights of 16 bits. */
export type Kernel = {
  memory: WebAssembly.Memory;
  room: () => number;
  blend: (
    ...given: [plane: number, stride: number, count: number, weights: number, width: number, target: number]
  ) => void;
  gather: (
    ...given: [line: number, firsts: number, taps: number, weights: number, width: number, target: number]
  ) => void;
  gather4: (line: number, firsts: number, weights: number, width: number, target: number) => void;
  toRgba: (y: number, u: number, v: number, width: number, target: number) => void;
};

/** Weights down and across a picture add up to 1 << so many. */
export const WEIGHTS_SHIFT = { down: 14, across: 12 } as const;

export const kernelOf = ({ exports }: WebAssembly.Instance): Kernel => exports as unknown as Kernel;

/** @throws in a browser whose WebAssembly has no vectors */
export async function loadKernel(): Promise<Kernel> {
  const file = fetch(new URL('./kernel.wasm', import.meta.url));
  return kernelOf((await WebAssembly.instantiateStreaming(file)).instance);
}
