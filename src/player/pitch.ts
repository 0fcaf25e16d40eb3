import { STRETCH_WORKLET } from '@/sound/names';

/** What brings a sound that is played faster or slower back to its pitch. */
export type Pitch = {
  readonly node: AudioNode;
  /** So much later it is heard, seconds. */
  readonly latencyS: number;
  readonly setSpeed: (speed: number) => void;
};

/** Equal temperament: twelve semitones double a frequency. */
const semitonesOf = (speed: number): number => -12 * Math.log2(speed);

/** Loaded when somebody first plays at another speed. */
export async function openPitch(context: AudioContext, speed: number): Promise<Pitch> {
  const { default: createStretch } = await import('signalsmith-stretch');
  createStretch.moduleUrl = STRETCH_WORKLET;
  const node = await createStretch(context, {
    numberOfInputs: 1,
    numberOfOutputs: 1,
    outputChannelCount: [2],
  });
  const setSpeed = (next: number) => void node.schedule({ active: true, semitones: semitonesOf(next) });
  setSpeed(speed);
  return { node, latencyS: await node.latency(), setSpeed };
}
