import { TRACK_NAMES } from '../recording/take';
import { withValue } from '../rig/rig-values';
import type { Finder, Finding } from './finding';

/** The device that the rig prefers is not there; another one was opened in its place. */
export const deviceMissing: Finder = (rig, { sources }) => {
  const found: Finding[] = [];
  for (const [path, role] of [
    ['camera', 'camera'],
    ['voice', 'voice'],
  ] as const) {
    const source = rig[path]?.source;
    const preferred = sources[role]?.insteadOf;
    if (source?.from !== 'device' || source.id === '' || preferred === undefined) continue;
    found.push({
      id: 'device-missing',
      weight: 'warn',
      sentence: `${TRACK_NAMES[role]}: ${preferred || 'the device used last'} is not connected; the browser’s default is used instead.`,
      advice: 'Connect it, or use the default device.',
      fix: (old) => withValue(old, `${path}.source`, { from: 'device', id: '', label: '' }),
      about: role,
    });
  }
  return found;
};
