import { clockText } from './figures';
import { type FrameRate, frameTimeUs } from './rational';

/**
 * A place in a film as editors write it: "3:24:07", minutes, seconds and the frame within the second at the film's constant rate.
 */
export function timecodeText(us: number, rate: FrameRate): string {
  const second = Math.floor(Math.max(0, us) / 1e6);
  // A frame begins at a rounded microsecond: half of one more still belongs to it.
  const frame = Math.floor(((Math.max(0, us) - second * 1e6 + 0.5) * rate.num) / rate.den / 1e6);
  return `${clockText(second * 1e6)}:${String(frame).padStart(2, '0')}`;
}

/** The frame within a film at a constant rate that a place lies in, counted from 0. */
const frameAt = (us: number, rate: FrameRate): number =>
  // A frame begins at a rounded microsecond: half of one more still belongs to it.
  Math.floor(((Math.max(0, us) + 0.5) * rate.num) / rate.den / 1e6);

/**
 * The place one frame on or back, whether anything moved in between or not.
 * @param lengthUs of the film: nothing is stepped out of
 * @returns µs, at the start of that frame
 */
export const steppedUs = (us: number, by: number, rate: FrameRate, lengthUs: number): number =>
  Math.min(lengthUs, frameTimeUs(Math.max(0, frameAt(us, rate) + by), rate));

/**
 * Reads a place that was typed: `m:ss:ff` or `h:mm:ss:ff` as it is shown, or `m:ss`.
 * @returns µs, at the start of that frame; null for anything else
 */
export function readTimecode(text: string, rate: FrameRate): number | null {
  const parts = text.trim().split(':');
  if (parts.length < 2 || parts.length > 4 || !parts.every((part) => /^\d{1,4}$/.test(part))) return null;
  const numbers = parts.map(Number);
  // Without frames there are minutes and seconds.
  const [frame = 0, s = 0, m = 0, h = 0] =
    parts.length === 2 ? [0, ...numbers.toReversed()] : numbers.toReversed();
  if (s > 59 || (parts.length === 4 && m > 59) || frame >= rate.num / rate.den) return null;
  const second = h * 3600 + m * 60 + s;
  // The first frame that begins within this second, and so many on.
  const first = Math.ceil((second * rate.num) / rate.den - 1e-9);
  return Math.max(second * 1e6, frameTimeUs(first + frame, rate));
}
