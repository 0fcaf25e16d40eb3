import { withValue } from '../rig-choices';
import { TRACK_NAMES } from '../take';
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
      sentence: `${TRACK_NAMES[role]}: ${preferred || 'the device of last time'} is not plugged in; the browser’s own choice is used instead.`,
      fix: 'Plug it in, or keep what is used now.',
      mend: (old) => withValue(old, `${path}.source`, { from: 'device', id: '', label: '' }),
      about: role,
    });
  }
  return found;
};
