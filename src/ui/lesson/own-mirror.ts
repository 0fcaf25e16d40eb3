import { useStore } from 'zustand';
import { keptInBrowser } from '../wire/kept-in-browser';

const kept = keptInBrowser(
  'own-mirror',
  false,
  (text) => text === 'yes',
  (mirrored) => (mirrored ? 'yes' : 'no'),
);

/** Whether this browser mirrors the camera preview. The file is not affected. */
export const useOwnMirror = (): [mirrored: boolean, set: (mirrored: boolean) => void] => [
  useStore(kept, ({ value }) => value),
  kept.keep,
];
