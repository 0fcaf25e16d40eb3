/** The treatment as an audio worklet: it is heard while it is turned on and off. Built by `scripts/worklets.mjs`. */
import type { Treatment } from '@/core/audio/treatment';
import { type Denoiser, openTreatment, type TreatmentLine } from '@/core/audio/treatment-line';
import { loadDenoiser } from './denoiser';
import { TREAT_PROCESSOR } from './names';

declare const registerProcessor: (name: string, processor: unknown) => void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

const missing = (): never => {
  throw new Error('The network is not there yet.');
};

class Treat extends AudioWorkletProcessor {
  private line: TreatmentLine | null = null;

  constructor({ processorOptions }: { processorOptions: { wasm: ArrayBuffer; treatment: Treatment } }) {
    super();
    let { treatment } = processorOptions;
    let denoiser: (() => Denoiser) | null = null;
    const open = () => {
      // Until the network is there, the rest is heard.
      const now = denoiser ? treatment : { ...treatment, denoise: false };
      this.line = openTreatment(now, denoiser ?? missing);
    };
    open();
    void loadDenoiser(processorOptions.wasm).then((loaded) => {
      denoiser = loaded;
      open();
    });
    this.port.onmessage = ({ data }: MessageEvent<Treatment>) => {
      treatment = data;
      open();
    };
  }

  process([input]: Float32Array[][], [output]: Float32Array[][]): boolean {
    const samples = input?.[0];
    if (!samples || !output || !this.line) return true;
    const out = this.line.push(samples);
    for (const channel of output) channel.set(out);
    return true;
  }
}

registerProcessor(TREAT_PROCESSOR, Treat);
