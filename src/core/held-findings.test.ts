import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type Held, HOLD_MS, holdFindings, NOTHING_HELD, nextHeldMs } from './held-findings';
import { PRACTICE_RIG } from './rig';

const warn = (id: string) => ({ id, weight: 'warn' as const });

test('what flickers is never shown, and what lasts is shown after two seconds', () => {
  // Each entry: whether it is found, a tenth of a second apart.
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 1, maxLength: 80 }), (there) => {
      let held: Held = NOTHING_HELD;
      let since: number | null = null;
      there.forEach((found, n) => {
        const nowMs = n * 100;
        since = found ? (since ?? nowMs) : null;
        held = holdFindings(held, PRACTICE_RIG, found ? [warn('noise')] : [], nowMs);
        expect(held.shown.has('noise')).toBe(since !== null && nowMs - since >= HOLD_MS);
      });
    }),
  );
});

test('what follows a choice is said at once, and so is what keeps a recording from beginning', () => {
  const before = holdFindings(NOTHING_HELD, PRACTICE_RIG, [], 0);
  expect(holdFindings(before, { ...PRACTICE_RIG }, [warn('softened')], 1).shown).toEqual(
    new Set(['softened']),
  );
  expect(holdFindings(before, PRACTICE_RIG, [{ id: 'no-source', weight: 'stop' }], 1).shown).toEqual(
    new Set(['no-source']),
  );
});

test('nothing new is the same object, and what waits says for how long', () => {
  const held = holdFindings(NOTHING_HELD, PRACTICE_RIG, [warn('hum')], 500);
  expect(held.shown.size).toBe(0);
  expect(nextHeldMs(held)).toBe(500 + HOLD_MS);
  expect(holdFindings(held, PRACTICE_RIG, [warn('hum')], 900)).toBe(held);
  const shown = holdFindings(held, PRACTICE_RIG, [warn('hum')], 500 + HOLD_MS);
  expect(nextHeldMs(shown)).toBeNull();
});
