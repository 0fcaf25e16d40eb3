'use client';

import { useHotkeys } from 'react-hotkeys-hook';
import { type ActionId, isByPlace } from '@/core/views/keys';
import { useKeys } from './key-changes';

type Options = {
  enabled?: boolean;
  /** Whether a key that is held acts again and again. */
  repeats?: boolean;
  /** What happens when the key is let go. */
  released?: () => void;
};

/** Calls `act` at the action's key, wherever on the page nothing else wants that key. */
export function useAction(action: ActionId, act: () => void, options: Options = {}): void {
  const keys = useKeys(action);
  const told = { act, ...options };
  usePresses(keys.filter(isByPlace), false, told);
  usePresses(
    keys.filter((key) => !isByPlace(key)),
    true,
    told,
  );
}

/** @param useKey whether the presses are told by their characters; else by the keys' places */
function usePresses(
  presses: readonly string[],
  useKey: boolean,
  { act, enabled = true, repeats = false, released }: Options & { act: () => void },
): void {
  const names = presses.length > 0 ? [...presses] : ['none'];
  const shared = { useKey, enableOnFormTags: true } as const;
  const able = enabled && presses.length > 0;
  useHotkeys(
    names,
    (event) => {
      if (event.repeat && !repeats) return;
      event.preventDefault();
      act();
    },
    { ...shared, enabled: able, ignoreEventWhen: isForOthers },
  );
  useHotkeys(names, () => released?.(), {
    ...shared,
    enabled: able && released !== undefined,
    keydown: false,
    keyup: true,
    // Whoever lets go of Shift first has let go of the key as well.
    ignoreModifiers: true,
  });
}

/**
 * Whether a key belongs to what has the focus: everything in text fields and dialogs, the space bar on buttons, arrows among
 * choices; and whatever has acted on it already, such as a handle that it moved.
 */
function isForOthers(event: KeyboardEvent): boolean {
  if (event.defaultPrevented) return true;
  const target = event.target as Element;
  if (
    target.closest(
      'textarea, [role="combobox"], [role="dialog"], input:not([type="radio"], [type="checkbox"])',
    )
  )
    return true;
  // What was picked up to be moved by arrows.
  if (target.closest('[aria-roledescription="sortable"][aria-pressed="true"]')) return true;
  if (event.key === ' ' || event.key === 'Enter') return target.closest('button, a, input, summary') !== null;
  return event.key.startsWith('Arrow') && target.closest('input') !== null;
}
