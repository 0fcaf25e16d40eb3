'use client';

import { type ActionId, keyText } from '@/core/views/keys';
import { useKeys, useMac } from './key-changes';

/** The key of an action, shown where it acts; nothing when it has none. */
export function Key({ of }: { of: ActionId }) {
  const [first] = useKeys(of);
  const mac = useMac();
  return first ? <kbd>{keyText(first, mac)}</kbd> : null;
}
