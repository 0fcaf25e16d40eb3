/** How long muting takes, s. */
const RAMP_S = 0.01;

/** Muting and unmuting go over a hundredth of a second: an edge would be heard as a click. */
export type Muting = {
  /** @param atOnce nobody hears an edge now */
  readonly set: (muted: boolean, atOnce: boolean) => void;
  readonly isMuted: () => boolean;
  /** The same samples, at the gain that muting has come to. @param planes one for each channel, −1…1 */
  readonly apply: (planes: readonly Float32Array[], sampleRate: number) => Float32Array[];
};

export function openMuting(): Muting {
  let muted = false;
  let gain = 1;
  return {
    set: (next, atOnce) => {
      muted = next;
      if (atOnce) gain = next ? 0 : 1;
    },
    isMuted: () => muted,
    apply: (planes, sampleRate) => {
      const target = muted ? 0 : 1;
      if (gain === target)
        return target === 1 ? [...planes] : planes.map((plane) => new Float32Array(plane.length));
      const step = (target > gain ? 1 : -1) / (sampleRate * RAMP_S);
      let after = gain;
      const made = planes.map((plane) => {
        after = gain;
        return plane.map((sample) => {
          after = Math.min(1, Math.max(0, after + step));
          return sample * after;
        });
      });
      gain = after;
      return made;
    },
  };
}
