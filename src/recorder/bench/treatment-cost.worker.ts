/** What each part of a voice's treatment takes of a second of the practice voice, ms. */
import { FIRST_TREATMENT, type Treatment, UNTREATED } from '@/core/audio/treatment';
import { openTreatment, TREATMENT_RATE } from '@/core/audio/treatment-line';
import { openVoice } from '@/practice/sounds';
import { fetchDenoiser } from '@/sound/denoiser';

const ALL: Treatment = { ...FIRST_TREATMENT, denoise: true };
const PARTS: Record<string, Treatment> = {
  all: ALL,
  highPass: { ...UNTREATED, highPassHz: ALL.highPassHz },
  denoise: { ...UNTREATED, denoise: true },
  gate: { ...UNTREATED, gateDb: ALL.gateDb },
  compressor: { ...UNTREATED, compressor: ALL.compressor },
};
/** As a device gives it. */
const CHUNK = TREATMENT_RATE / 100;

self.onmessage = async ({ data }: MessageEvent<{ seconds: number; rounds: number }>) => {
  try {
    const voice = openVoice();
    const [denoiser] = await Promise.all([fetchDenoiser(), voice.readUntil(data.seconds * TREATMENT_RATE)]);
    const ms: Record<string, number[]> = {};
    for (let round = 0; round < data.rounds; round++)
      for (const [name, treatment] of Object.entries(PARTS)) {
        const line = openTreatment(treatment, denoiser);
        const each = ms[name] ?? [];
        for (let second = 0; second < data.seconds; second++) {
          const chunks = Array.from({ length: 100 }, (_, i) => {
            const samples = new Float32Array(CHUNK);
            voice.sound(second * TREATMENT_RATE + i * CHUNK, samples);
            return samples;
          });
          const began = performance.now();
          for (const chunk of chunks) line.push(chunk);
          const took = performance.now() - began;
          // What others do on the machine meanwhile only adds: the least of all rounds is what this second costs.
          each[second] = Math.min(each[second] ?? took, took);
        }
        ms[name] = each;
      }
    postMessage(ms);
  } catch (error) {
    postMessage({ error: String(error) });
  }
};
