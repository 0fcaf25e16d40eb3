import { clamp } from '../base/clamp';

/** The stretch of a rehearsal that the strip shows, µs. */
export type StripWindow = { fromUs: number; toUs: number };

/** Narrower, single frames are wide enough. */
const NARROWEST_US = 200_000;

/**
 * Shows less or more around a time, which stays where it is on the strip.
 * @param factor below 1 shows less
 */
export function zoomedWindow(
  window: StripWindow,
  factor: number,
  aroundUs: number,
  lengthUs: number,
): StripWindow {
  const width = window.toUs - window.fromUs;
  const wanted = clamp(width * factor, Math.min(NARROWEST_US, lengthUs), lengthUs);
  const share = width > 0 ? (aroundUs - window.fromUs) / width : 0.5;
  return placed(aroundUs - share * wanted, wanted, lengthUs);
}

/** The window moved as little as possible so that a time is inside. */
export function windowShowing(window: StripWindow, tUs: number, lengthUs: number): StripWindow {
  const width = window.toUs - window.fromUs;
  if (tUs >= window.fromUs && tUs <= window.toUs) return window;
  return placed(tUs < window.fromUs ? tUs - width * 0.1 : tUs - width * 0.9, width, lengthUs);
}

function placed(fromUs: number, width: number, lengthUs: number): StripWindow {
  const from = clamp(fromUs, 0, Math.max(0, lengthUs - width));
  return { fromUs: from, toUs: from + width };
}
