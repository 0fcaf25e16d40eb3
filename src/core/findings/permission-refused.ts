import { withValue } from '../rig/rig-values';
import type { Finder, Finding } from './finding';

/** The browser was told once and for all to refuse: it will not even ask. */
export const permissionRefused: Finder = (rig, { permissions, sources }) => {
  const found: Finding[] = [];
  const refused = (path: 'camera' | 'voice', name: string, allowed: boolean | null) => {
    // Once it was tried, the device's own message says it.
    if (allowed !== false || rig[path]?.source.from !== 'device' || sources[path]?.state === 'failed') return;
    found.push({
      id: 'permission-refused',
      weight: 'warn',
      sentence: `The browser does not let the studio use the ${name}.`,
      advice: `Allow it in the site permissions, or record without it.`,
      fix: (old) => withValue(old, path, null),
      about: path,
    });
  };
  refused('camera', 'camera', permissions.camera);
  refused('voice', 'microphone', permissions.microphone);
  return found;
};
