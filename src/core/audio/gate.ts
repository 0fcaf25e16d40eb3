import { gainOf } from '../base/decibels';

/** It hears what comes so much earlier than it lets it through, so that the first sound of a word is whole. */
export const GATE_AHEAD_S = 0.01;
/** How long opening takes; over by the time that what opened it comes through. */
const OPEN_S = 0.01;
const CLOSE_S = 0.12;
/** Between two words it stays open. */
const HOLD_S = 0.25;
/** Once open it stays so until it is this much quieter: speech at the threshold does not make it flutter. */
const HYSTERESIS_DB = 6;
/** What a closed gate leaves: nothing at all would be heard as a hole. */
const CLOSED_DB = -40;

/**
 * Closes while nobody speaks. Opening and closing follow a raised cosine, so that neither is heard as a click.
 * @param thresholdDb peak at which it opens, dBFS
 * @returns works in place; what comes out is `GATE_AHEAD_S` late
 */
export function openGate(thresholdDb: number, sampleRate: number): (samples: Float32Array) => void {
  const ahead = Math.round(GATE_AHEAD_S * sampleRate);
  const delayed = new Float32Array(ahead);
  const [opens, closes] = [gainOf(thresholdDb), gainOf(thresholdDb - HYSTERESIS_DB)];
  const [up, down] = [1 / (OPEN_S * sampleRate), 1 / (CLOSE_S * sampleRate)];
  const holds = Math.round(HOLD_S * sampleRate);
  const closed = gainOf(CLOSED_DB);
  let [at, hold] = [0, 0];
  /** 0 closed … 1 open. */
  let open = 0;
  let gainNow = closed;
  return (samples) => {
    let gain = gainNow;
    for (let i = 0; i < samples.length; i++) {
      const x = samples[i] as number;
      const loud = x < 0 ? -x : x;
      if (loud >= opens || (hold > 0 && loud >= closes)) hold = holds;
      else if (hold > 0) hold--;
      if (hold > 0 ? open < 1 : open > 0) {
        open = hold > 0 ? Math.min(1, open + up) : Math.max(0, open - down);
        gain = closed + (1 - closed) * (0.5 - 0.5 * Math.cos(Math.PI * open));
      }
      samples[i] = (delayed[at] as number) * gain;
      delayed[at] = x;
      if (++at === ahead) at = 0;
    }
    gainNow = gain;
  };
}
