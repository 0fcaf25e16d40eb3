import type { Finder } from './finding';

/** This browser cannot record at all. */
export const browserLacks: Finder = (_, { browser }) =>
  browser && {
    id: 'browser-lacks',
    weight: 'stop',
    sentence: browser.message,
    advice: browser.hint,
    about: 'browser',
  };
