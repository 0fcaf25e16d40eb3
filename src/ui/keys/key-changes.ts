'use client';

import { useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import { type ActionId, KeyChanges, keysOf } from '@/core/views/keys';
import { keptInBrowser } from '../wire/kept-in-browser';

const NONE: KeyChanges = {};
/** What cannot be read is nothing: the keys that ship are always there. */
const kept = keptInBrowser(
  'keys',
  NONE,
  (text) => KeyChanges.parse(JSON.parse(text)),
  (changes) => (Object.keys(changes).length === 0 ? null : JSON.stringify(changes)),
);

export const changeKeys = kept.keep;
export const useKeyChanges = (): KeyChanges => useStore(kept, ({ value }) => value);
export const useKeys = (action: ActionId): readonly string[] => keysOf(action, useKeyChanges());

/** Whether Command stands for Ctrl here. */
export const useMac = (): boolean =>
  useSyncExternalStore(
    () => () => undefined,
    () => /mac/i.test(navigator.userAgent),
    () => false,
  );
