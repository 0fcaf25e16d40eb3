declare module '@jitsi/rnnoise-wasm/dist/rnnoise.js' {
  type Rnnoise = {
    HEAPF32: Float32Array;
    _malloc: (bytes: number) => number;
    _rnnoise_create: () => number;
    /** @returns how likely it is that somebody speaks, 0…1 */
    _rnnoise_process_frame: (state: number, out: number, input: number) => number;
  };
  export default function create(options: { wasmBinary: ArrayBuffer }): Promise<Rnnoise>;
}
