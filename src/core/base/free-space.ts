import { significant } from './figures';
import { lengthText } from './length';

/** What a store must have left when a recording is stopped for want of room: its files are still to be closed. */
const LEAST_BYTES = 24_000_000;
/** Nor may it come nearer than this many seconds of recording. */
const LEAST_S = 15;
const EARLY_S = 600;

export type Room = {
  /** How long a recording can go on, seconds; 0 when it must stop. */
  seconds: number;
  /** `few`: worth saying. `none`: stop now, while everything can still be kept. */
  state: 'enough' | 'few' | 'none';
};

/**
 * How long a store takes what is recorded.
 * @param freeBytes of the store
 * @param bytesPerSecond that are recorded, measured or at most
 */
export function roomFor(freeBytes: number, bytesPerSecond: number): Room {
  const rate = Math.max(1, bytesPerSecond);
  const kept = Math.max(LEAST_BYTES, LEAST_S * rate);
  const seconds = Math.max(0, (freeBytes - kept) / rate);
  return { seconds, state: seconds === 0 ? 'none' : seconds < EARLY_S ? 'few' : 'enough' };
}

/** "360 h", "41 h", "1 h 20 min", "9 min", "40 s": as exact as it is useful. */
export function roomText({ seconds }: Pick<Room, 'seconds'>): string {
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60)];
  if (hours >= 100) return `${significant(hours, 2)} h`;
  if (hours >= 10) return `${hours} h`;
  if (hours > 0) return `${hours} h ${minutes} min`;
  return minutes >= 2 ? `${minutes} min` : lengthText(Math.floor(seconds));
}
