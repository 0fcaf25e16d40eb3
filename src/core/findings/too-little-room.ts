import { roomText } from '../base/free-space';
import { lengthText } from '../base/length';
import { withValue } from '../rig/rig-values';
import type { Finder, Finding } from './finding';

/** A store that is full, nearly full, or has less room than the planned length needs. */
export const tooLittleRoom: Finder = (rig, { room: { browser, server } }) => {
  const found: Finding[] = [];
  const add = (finding: Omit<Finding, 'id' | 'about'>) =>
    found.push({ id: 'too-little-room', about: 'storage', ...finding });
  const planned = rig.plannedLengthS ?? 0;
  const shorter = (seconds: number): Pick<Finding, 'advice' | 'fix'> => ({
    advice: seconds < 1 ? 'Free some space.' : `Plan ${roomText({ seconds })}, or free some space.`,
    fix: (old) => withValue(old, 'plannedLengthS', seconds < 1 ? null : Math.floor(seconds)),
  });
  if (browser?.state === 'none')
    add({
      weight: 'stop',
      sentence: 'The browser’s storage has no free space for a recording.',
      advice: 'Free some space on this disk.',
    });
  else if (browser && browser.seconds < planned)
    add({
      weight: 'warn',
      sentence: `The browser’s storage has space for ${roomText(browser)} of the planned ${lengthText(planned)} at the highest bitrate.`,
      ...shorter(browser.seconds),
    });
  else if (browser?.state === 'few')
    add({
      weight: 'warn',
      sentence: `The browser’s storage has space for only ${roomText(browser)} at the highest bitrate.`,
      advice: 'Free some space on this disk.',
    });
  // A take waits in the browser when the server has no room.
  if (server?.state === 'none')
    add({
      weight: 'warn',
      sentence: 'The studio’s disk is full: a take will stay in this browser.',
      advice: 'Free some space on the studio’s disk.',
    });
  else if (server && server.seconds < planned)
    add({
      weight: 'warn',
      sentence: `The studio’s disk has space for ${roomText(server)} of the planned ${lengthText(planned)} at the highest bitrate.`,
      ...shorter(server.seconds),
    });
  else if (server?.state === 'few')
    add({
      weight: 'warn',
      sentence: `The studio’s disk has space for only ${roomText(server)} at the highest bitrate.`,
      advice: 'Free some space on the studio’s disk.',
    });
  return found;
};
