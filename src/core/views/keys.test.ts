import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  ACTION_IDS,
  ACTIONS,
  type ActionId,
  conflictOf,
  KeyChanges,
  KeyPress,
  keyPressOf,
  keysOf,
  keyText,
  withKey,
} from './keys';

const action = fc.constantFrom(...ACTION_IDS);
const press = fc.constantFrom('r', 's', 'k', 'space', 'escape', 'arrowleft', 'mod+z', 'mod+y', 'f5', 'alt+q');
const changes = fc
  .array(fc.tuple(action, fc.option(press)), { maxLength: 12 })
  .map((steps) => steps.reduce<KeyChanges>((now, [id, key]) => withKey(now, id, key), {}));

/** Keys that do two things on one page. */
const doubled = (now: KeyChanges): string[] =>
  (['record', 'take', 'edit'] as const).flatMap((place) => {
    const keys = ACTION_IDS.filter((id) => (ACTIONS[id].places as readonly string[]).includes(place)).flatMap(
      (id) => keysOf(id, now),
    );
    return keys.filter((key, i) => keys.indexOf(key) !== i);
  });

describe('keys', () => {
  test('what ships has no key twice on a page and every key can be written', () => {
    expect(doubled({})).toEqual([]);
    for (const id of ACTION_IDS)
      for (const key of ACTIONS[id].keys) expect(KeyPress.safeParse(key).success).toBe(true);
  });

  test('whatever is changed in whatever order, no key does two things on one page', () => {
    fc.assert(
      fc.property(changes, (now) => {
        expect(doubled(now)).toEqual([]);
      }),
    );
  });

  test('an action has the key that it was given, and the one that had it has none', () => {
    fc.assert(
      fc.property(changes, action, press, (now, id, key) => {
        const before = conflictOf(id, key, now);
        const next = withKey(now, id, key);
        expect(keysOf(id, next)).toContain(key);
        if (before) expect(keysOf(before, next)).not.toContain(key);
        expect(conflictOf(id, key, next)).toBeNull();
      }),
    );
  });

  test('an action without a change has its own keys back when nobody else wants them', () => {
    fc.assert(
      fc.property(action, press, (id, key) => {
        const { [id]: _, ...rest } = withKey({}, id, key);
        for (const each of ACTION_IDS) expect(keysOf(each, rest)).toEqual(ACTIONS[each].keys);
      }),
    );
  });

  test('the same key on Record and on Edit is no conflict', () => {
    expect(keysOf('record.stop', {})).toEqual(keysOf('edit.split', {}));
    expect(conflictOf('record.stop', 'x', {})).toBeNull();
    expect(conflictOf('edit.in', 'k', {})).toBe('play.stop' satisfies ActionId);
  });

  test('changes are kept as they were made; others are refused', () => {
    fc.assert(
      fc.property(changes, (now) => {
        expect(KeyChanges.parse(JSON.parse(JSON.stringify(now)))).toEqual(now);
      }),
    );
    for (const wrong of [{ 'record.start': 'tab' }, { 'record.begin': 'r' }, { 'edit.in': 'shift' }])
      expect(KeyChanges.safeParse(wrong).success).toBe(false);
  });

  test('a press is read and shown', () => {
    const none = { code: '', ctrlKey: false, metaKey: false, altKey: false, shiftKey: false };
    expect(keyPressOf({ ...none, key: 'R', shiftKey: true })).toBe('shift+r');
    expect(keyPressOf({ ...none, key: ' ', code: 'Space' })).toBe('space');
    // On one keyboard Shift makes "<" of it, on another ";".
    for (const key of ['<', ';'])
      expect(keyPressOf({ ...none, key, code: 'Comma', shiftKey: true })).toBe('shift+comma');
    expect(keyPressOf({ ...none, key: 'z', metaKey: true })).toBe('mod+z');
    for (const key of ['Shift', 'Control', 'Tab', ',', '+', 'Dead', 'ä'])
      expect(keyPressOf({ ...none, key })).toBeNull();
    expect(keyText('mod+shift+z')).toBe('Ctrl Shift Z');
    expect(keyText('shift+arrowleft')).toBe('Shift ←');
    expect(keyText('shift+period')).toBe('Shift .');
    expect(keyText('mod+z', true)).toBe('⌘ Z');
  });
});
