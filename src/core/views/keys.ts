// One table of everything that a key does, and which key does it. A key is written as it is pressed, lower case, modifiers first:
// "r", "shift+arrowleft", "mod+z" (`mod`: Ctrl, on a Mac Command).
import { z } from 'zod';

/** The pages on which an action can be called. */
export type KeyPlace = 'record' | 'take' | 'edit';

type ActionEntry = { group: string; name: string; keys: readonly string[]; places: readonly KeyPlace[] };

const RECORD: readonly KeyPlace[] = ['record'];
const PLAYER: readonly KeyPlace[] = ['take', 'edit'];
const EDIT: readonly KeyPlace[] = ['edit'];

/** Every action with the keys that it ships with. */
export const ACTIONS = {
  'record.start': { group: 'Record', name: 'Record', keys: ['r'], places: RECORD },
  'record.stop': { group: 'Record', name: 'Stop', keys: ['s'], places: RECORD },
  'record.pause': { group: 'Record', name: 'Pause or resume', keys: ['p'], places: RECORD },
  'record.mark': { group: 'Record', name: 'Mark', keys: ['m'], places: RECORD },
  'record.mute': { group: 'Record', name: 'Mute, or hold to talk', keys: ['v'], places: RECORD },
  'record.cancel': { group: 'Record', name: 'Cancel the countdown', keys: ['escape'], places: RECORD },
  'play.toggle': { group: 'Playback', name: 'Play or pause', keys: ['space'], places: PLAYER },
  'play.back': { group: 'Playback', name: 'Shuttle backwards', keys: ['j'], places: PLAYER },
  'play.stop': { group: 'Playback', name: 'Stop', keys: ['k'], places: PLAYER },
  'play.forward': { group: 'Playback', name: 'Shuttle forwards', keys: ['l'], places: PLAYER },
  'play.frame-back': {
    group: 'Playback',
    name: 'One frame back',
    keys: ['arrowleft', 'comma'],
    places: PLAYER,
  },
  'play.frame-on': {
    group: 'Playback',
    name: 'One frame on',
    keys: ['arrowright', 'period'],
    places: PLAYER,
  },
  'play.ten-back': { group: 'Playback', name: '10 frames back', keys: ['shift+comma'], places: PLAYER },
  'play.ten-on': { group: 'Playback', name: '10 frames on', keys: ['shift+period'], places: PLAYER },
  'play.jump-back': { group: 'Playback', name: '5 seconds back', keys: ['shift+arrowleft'], places: PLAYER },
  'play.jump-on': { group: 'Playback', name: '5 seconds on', keys: ['shift+arrowright'], places: PLAYER },
  'play.start': { group: 'Playback', name: 'To the start', keys: ['home'], places: PLAYER },
  'play.end': { group: 'Playback', name: 'To the end', keys: ['end'], places: PLAYER },
  'play.mute': { group: 'Playback', name: 'Mute', keys: ['m'], places: PLAYER },
  'play.full': { group: 'Playback', name: 'Full screen', keys: ['f'], places: PLAYER },
  'edit.in': { group: 'Edit', name: 'Mark in', keys: ['i'], places: EDIT },
  'edit.out': { group: 'Edit', name: 'Mark out', keys: ['o'], places: EDIT },
  'edit.remove': { group: 'Edit', name: 'Delete the selection', keys: ['x'], places: EDIT },
  'edit.keep': { group: 'Edit', name: 'Trim to the selection', keys: ['t'], places: EDIT },
  'edit.split': { group: 'Edit', name: 'Split here', keys: ['s'], places: EDIT },
  'edit.trim': { group: 'Edit', name: 'Trim both ends', keys: ['h'], places: EDIT },
  'edit.zoom-in': { group: 'Edit', name: 'Zoom in', keys: ['arrowup'], places: EDIT },
  'edit.zoom-out': { group: 'Edit', name: 'Zoom out', keys: ['arrowdown'], places: EDIT },
  'edit.joint': { group: 'Edit', name: 'Preview the nearest joint', keys: ['p'], places: EDIT },
  'edit.loop': { group: 'Edit', name: 'Loop the nearest joint', keys: ['shift+p'], places: EDIT },
  'edit.mark': { group: 'Edit', name: 'Add a mark', keys: ['a'], places: EDIT },
  'edit.deselect': { group: 'Edit', name: 'Clear the selection', keys: ['escape'], places: EDIT },
  'edit.undo': { group: 'Edit', name: 'Undo', keys: ['mod+z'], places: EDIT },
  'edit.redo': { group: 'Edit', name: 'Redo', keys: ['mod+shift+z', 'mod+y'], places: EDIT },
} as const satisfies Record<string, ActionEntry>;
export type ActionId = keyof typeof ACTIONS;

export const ACTION_IDS = Object.keys(ACTIONS) as ActionId[];

const NAMED_KEYS = [
  'space',
  'enter',
  'escape',
  'backspace',
  'delete',
  'insert',
  'home',
  'end',
  'pageup',
  'pagedown',
  'arrowleft',
  'arrowright',
  'arrowup',
  'arrowdown',
  'comma',
  'period',
];

/** Keys that are told by their place, `KeyboardEvent.code`: with Shift, another character comes of them on every keyboard. */
const BY_PLACE: Readonly<Record<string, string>> = { Space: 'space', Comma: 'comma', Period: 'period' };

/** Whether a press is told by the key's place on the keyboard, and not by its character. */
export const isByPlace = (press: string): boolean =>
  Object.values(BY_PLACE).includes(press.slice(press.lastIndexOf('+') + 1));

/** One press of a key that an action can have. Other punctuation lies elsewhere on every keyboard, and Tab moves the focus. */
export const KeyPress = z
  .string()
  .regex(
    new RegExp(`^(mod\\+)?(alt\\+)?(shift\\+)?([a-z0-9]|f[1-9]|f1[0-2]|${NAMED_KEYS.join('|')})$`),
    'must be a letter, a digit, F1 to F12 or a named key, with Ctrl, Alt or Shift before it',
  );

/** What somebody changed in one browser: the key of an action, or none. */
export const KeyChanges = z.partialRecord(z.enum(ACTION_IDS), KeyPress.nullable());
export type KeyChanges = z.infer<typeof KeyChanges>;

const meet = (a: ActionId, b: ActionId): boolean => {
  const places: readonly KeyPlace[] = ACTIONS[b].places;
  return ACTIONS[a].places.some((place) => places.includes(place));
};

/**
 * The keys of an action as they are now. A key that somebody gave to one action is taken from those that ship with it, so that
 * no key ever does two things on one page.
 */
export function keysOf(action: ActionId, changes: KeyChanges): readonly string[] {
  const own = changes[action];
  if (own !== undefined) return own === null ? [] : [own];
  const taken = ACTION_IDS.filter((other) => other !== action && meet(action, other)).map(
    (other) => changes[other],
  );
  return ACTIONS[action].keys.filter((key) => !taken.includes(key));
}

/** The action that has this key already on a page where the other is called too. */
export const conflictOf = (action: ActionId, key: string, changes: KeyChanges): ActionId | null =>
  ACTION_IDS.find(
    (other) => other !== action && meet(action, other) && keysOf(other, changes).includes(key),
  ) ?? null;

/** Gives a key to an action; whatever had it on the same page has none from then on. */
export function withKey(changes: KeyChanges, action: ActionId, key: string | null): KeyChanges {
  const next: KeyChanges = { ...changes, [action]: key };
  for (const other of ACTION_IDS)
    if (other !== action && key !== null && next[other] === key && meet(action, other)) next[other] = null;
  // What ships is not a change.
  if (ACTIONS[action].keys.length === 1 && key === ACTIONS[action].keys[0]) delete next[action];
  return next;
}

type Pressed = Record<'key' | 'code', string> &
  Record<'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey', boolean>;

/** A press as it is written, or null when no action can have it: a modifier alone, punctuation, Tab. */
export function keyPressOf({ key, code, ctrlKey, metaKey, altKey, shiftKey }: Pressed): string | null {
  const name = BY_PLACE[code] ?? key.toLowerCase();
  const press = [(ctrlKey || metaKey) && 'mod', altKey && 'alt', shiftKey && 'shift', name]
    .filter(Boolean)
    .join('+');
  return KeyPress.safeParse(press).success ? press : null;
}

const SHOWN: Readonly<Record<string, string>> = {
  mod: 'Ctrl',
  escape: 'Esc',
  arrowleft: '←',
  arrowright: '→',
  arrowup: '↑',
  arrowdown: '↓',
  pageup: 'Page Up',
  pagedown: 'Page Down',
  comma: ',',
  period: '.',
};

/** As it is printed on a key: "Shift ←", "Ctrl Z". */
export const keyText = (press: string, mac = false): string =>
  press
    .split('+')
    .map((part) =>
      part === 'mod' && mac ? '⌘' : (SHOWN[part] ?? `${part[0]?.toUpperCase()}${part.slice(1)}`),
    )
    .join(' ');
