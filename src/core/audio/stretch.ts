import { joinedSamples } from './planes';

/** Plays sound faster or slower at the same pitch: WSOLA (Verhelst and Roelands, "An overlap-add technique based on waveform similarity", ICASSP 1993). */

/** Length of a window: several periods of a deep voice. */
const WINDOW_S = 0.03;
/** A window is looked for this far beside its place; less far where slow playing makes much of it. */
const SEARCH_S = 0.01;
/** Windows are compared at every so many samples first, then at each about the best. */
const COARSE = 4;

export type Stretch = {
  /** Takes the next samples, one array for each channel. @returns what is ready of the result; often less or more than was given */
  push: (planes: readonly Float32Array[]) => Float32Array<ArrayBuffer>[];
  /** What is left at the end. */
  end: () => Float32Array<ArrayBuffer>[];
};

/**
 * @param speed 0.25…4; twice as fast is half as long
 * @param channels that are given each time
 */
export function openStretch(speed: number, sampleRate: number, channels: number): Stretch {
  const hop = Math.round((WINDOW_S * sampleRate) / 2);
  const search = Math.round(SEARCH_S * Math.min(1, 1.6 * speed) * sampleRate);
  const fade = Float32Array.from({ length: hop }, (_, i) => Math.sin(((i + 0.5) / hop) * (Math.PI / 2)) ** 2);
  let held = Array.from({ length: channels }, () => new Float32Array(0));
  /** Sample of the source at which `held` begins. */
  let heldFrom = 0;
  /** Windows that are out already, and where in the source the last one began. */
  let [count, last] = [0, 0];

  const compared = (a: number, b: number, stride: number) => {
    let sum = 0;
    for (const plane of held)
      for (let i = 0; i < hop; i += stride) sum += (plane[a + i] ?? 0) * (plane[b + i] ?? 0);
    return sum;
  };
  /** Where the window that should begin at a place goes on best from the one before. */
  const bestNear = (place: number): number => {
    const natural = last + hop - heldFrom;
    const from = Math.max(0, place - search - heldFrom);
    const to = place + search - heldFrom;
    const best = (from: number, to: number, step: number, stride: number) => {
      let [most, at] = [Number.NEGATIVE_INFINITY, from];
      for (let i = from; i <= to; i += step) {
        const likeness = compared(natural, i, stride);
        if (likeness > most) [most, at] = [likeness, i];
      }
      return at;
    };
    const near = best(from, to, COARSE, COARSE);
    return best(Math.max(from, near - COARSE), Math.min(to, near + COARSE), 1, 2) + heldFrom;
  };
  /** The next half window: the end of the last one fades over into the beginning of this one. */
  const next = (): Float32Array<ArrayBuffer>[] => {
    const place = count === 0 ? 0 : bestNear(Math.round(count * hop * speed));
    const made = held.map((plane) => {
      const out = new Float32Array(hop);
      for (let i = 0; i < hop; i++) {
        const own = plane[place + i - heldFrom] ?? 0;
        const share = count === 0 ? 1 : (fade[i] ?? 1);
        out[i] = own * share + (plane[last + hop + i - heldFrom] ?? 0) * (1 - share);
      }
      return out;
    });
    count++;
    last = place;
    return made;
  };
  const ready = (): boolean => {
    const needed = Math.max(Math.round(count * hop * speed) + search, last + hop) + hop;
    return heldFrom + (held[0]?.length ?? 0) >= needed;
  };
  /** Lets go of what no window needs any more. */
  const forget = () => {
    const from = Math.max(heldFrom, Math.min(last, Math.round(count * hop * speed) - search) - 1);
    held = held.map((plane) => plane.slice(from - heldFrom));
    heldFrom = from;
  };
  const all = (parts: Float32Array<ArrayBuffer>[][]) =>
    held.map((_, channel) => joinedSamples(parts.map((part) => part[channel] as Float32Array<ArrayBuffer>)));

  return {
    push: (planes) => {
      held = held.map((plane, channel) => joinedSamples([plane, planes[channel] ?? new Float32Array(0)]));
      const parts: Float32Array<ArrayBuffer>[][] = [];
      while (ready()) parts.push(next());
      forget();
      return all(parts);
    },
    end: () => {
      const given = heldFrom + (held[0]?.length ?? 0);
      const wanted = Math.round(given / speed);
      const parts: Float32Array<ArrayBuffer>[][] = [];
      while (count * hop < wanted) parts.push(next());
      const over = Math.max(0, count * hop - wanted);
      return all(parts).map((plane) => plane.slice(0, Math.max(0, plane.length - over)));
    },
  };
}
