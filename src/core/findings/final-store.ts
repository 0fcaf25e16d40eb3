import { bytesText } from '../base/figures';
import { roomFor, roomText } from '../base/free-space';
import { trackRates } from '../encoding/rate';
import { withValue } from '../rig/rig-values';
import type { Finder, Finding } from './finding';

/** A store must be so many times faster than what is recorded: a take of an hour is copied in minutes then. */
const LEAST_TIMES = 8;

/** The folder that gets a copy of every take: gone, full, or too slow. What is recorded is on the studio's disk in any case. */
export const finalStore: Finder = (rig, { store, sources }) => {
  if (rig.stores.final === 'studio' || !store) return null;
  const found: Finding[] = [];
  const add = (sentence: string, advice: string) =>
    found.push({
      id: 'final-store',
      weight: 'warn',
      sentence,
      advice,
      fix: (old) => withValue(old, 'stores.final', 'studio'),
      about: 'storage',
    });
  if (store === 'gone') {
    add('The store for finished files was removed.', 'Use the studio’s disk only.');
    return found;
  }
  if (store.problem) {
    add(`The store “${store.name}” cannot be used: ${store.problem}.`, 'Use the studio’s disk only.');
    return found;
  }
  const bytesPerSecond = (trackRates(rig, sources.screen?.size, sources.camera?.size).total * 1000) / 8;
  const room = store.freeBytes === null ? null : roomFor(store.freeBytes, bytesPerSecond);
  const planned = rig.plannedLengthS ?? 0;
  if (room && (room.state !== 'enough' || room.seconds < planned))
    add(
      `The store “${store.name}” has space for ${roomText(room)} of recording.`,
      'Free some space there, or use the studio’s disk only.',
    );
  if (store.bytesPerSecond !== null && store.bytesPerSecond < LEAST_TIMES * bytesPerSecond)
    add(
      `The store “${store.name}” writes ${bytesText(store.bytesPerSecond)}/s: copying a take takes long.`,
      'Use a faster one, or the studio’s disk only.',
    );
  return found;
};
