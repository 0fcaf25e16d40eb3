'use client';

import { useSyncExternalStore } from 'react';
import { type ActionId, KeyChanges, keysOf } from '@/core/views/keys';

/** In this browser, for every page and tab of it. */
const KEPT = 'keys';
const NONE: KeyChanges = {};

let read: { text: string | null; changes: KeyChanges } = { text: null, changes: NONE };
const listeners = new Set<() => void>();

function keyChanges(): KeyChanges {
  const text = localStorage.getItem(KEPT);
  if (text !== read.text) read = { text, changes: parsed(text) };
  return read.changes;
}

/** What cannot be read is nothing: the keys that ship are always there. */
function parsed(text: string | null): KeyChanges {
  try {
    return KeyChanges.parse(JSON.parse(text ?? '{}'));
  } catch {
    return NONE;
  }
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener('storage', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('storage', listener);
  };
}

export function changeKeys(changes: KeyChanges): void {
  if (Object.keys(changes).length === 0) localStorage.removeItem(KEPT);
  else localStorage.setItem(KEPT, JSON.stringify(changes));
  for (const listener of listeners) listener();
}

export const useKeyChanges = (): KeyChanges => useSyncExternalStore(subscribe, keyChanges, () => NONE);

export const useKeys = (action: ActionId): readonly string[] => keysOf(action, useKeyChanges());

/** Whether Command stands for Ctrl here. */
export const useMac = (): boolean =>
  useSyncExternalStore(
    () => () => undefined,
    () => /mac/i.test(navigator.userAgent),
    () => false,
  );
