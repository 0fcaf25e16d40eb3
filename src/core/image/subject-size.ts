import type { Size } from '../base/sizes';

/**
 * How a captured window must change to fill a picture one to one: "16 wider and 39 taller".
 * @returns null when it is as large as that already
 */
export function sizeDifference(source: Size, wanted: Size): string | null {
  const across = wanted.width - source.width;
  const down = wanted.height - source.height;
  const parts = [
    across !== 0 && `${Math.abs(across)} ${across > 0 ? 'wider' : 'narrower'}`,
    down !== 0 && `${Math.abs(down)} ${down > 0 ? 'taller' : 'lower'}`,
  ].filter(Boolean);
  return parts.length === 0 ? null : parts.join(' and ');
}
