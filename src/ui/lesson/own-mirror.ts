import { useSyncExternalStore } from 'react';

const KEY = 'own-mirror';
const listeners = new Set<() => void>();

/** Whether this browser mirrors the camera preview. The file is not affected. */
export function useOwnMirror(): [mirrored: boolean, set: (mirrored: boolean) => void] {
  const mirrored = useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => localStorage.getItem(KEY) === 'yes',
    () => false,
  );
  const set = (next: boolean) => {
    localStorage.setItem(KEY, next ? 'yes' : 'no');
    for (const listen of listeners) listen();
  };
  return [mirrored, set];
}
