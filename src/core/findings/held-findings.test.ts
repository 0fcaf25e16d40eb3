import fc from 'fast-check';
import { expect, test } from 'vitest';
import { PRACTICE_RIG } from '../rig/rig';
import { type Held, HOLD_MS, holdFindings, NEW_MS, NOTHING_HELD, nextHeldMs } from './held-findings';

const warn = (id: string) => ({ id, weight: 'warn' as const });
/** A page that was opened at 0 and found nothing. */
const OPENED: Held = holdFindings(NOTHING_HELD, PRACTICE_RIG, [], 0);

test('what flickers is never shown, and what lasts is shown after two seconds', () => {
  // Each entry: whether it is found, a tenth of a second apart.
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 1, maxLength: 80 }), (there) => {
      let held = OPENED;
      let since: number | null = null;
      there.forEach((found, n) => {
        const nowMs = NEW_MS + n * 100;
        since = found ? (since ?? nowMs) : null;
        held = holdFindings(held, PRACTICE_RIG, found ? [warn('noise')] : [], nowMs);
        expect(held.shown.has('noise')).toBe(since !== null && nowMs - since >= HOLD_MS);
      });
    }),
  );
});

test('what follows a choice or the opening of the page is said at once, and so is what keeps a recording from beginning', () => {
  const softened = [warn('softened')];
  expect(holdFindings(OPENED, PRACTICE_RIG, softened, NEW_MS - 1).shown).toEqual(new Set(['softened']));
  expect(holdFindings(OPENED, PRACTICE_RIG, softened, NEW_MS).shown).toEqual(new Set());
  expect(holdFindings(OPENED, { ...PRACTICE_RIG }, softened, 60_000).shown).toEqual(new Set(['softened']));
  const stop = [{ id: 'no-source', weight: 'stop' as const }];
  expect(holdFindings(OPENED, PRACTICE_RIG, stop, 60_000).shown).toEqual(new Set(['no-source']));
});

test('nothing new is the same object, and what waits says for how long', () => {
  const held = holdFindings(OPENED, PRACTICE_RIG, [warn('hum')], 5000);
  expect(held.shown.size).toBe(0);
  expect(nextHeldMs(held)).toBe(5000 + HOLD_MS);
  expect(holdFindings(held, PRACTICE_RIG, [warn('hum')], 5400)).toBe(held);
  const shown = holdFindings(held, PRACTICE_RIG, [warn('hum')], 5000 + HOLD_MS);
  expect(nextHeldMs(shown)).toBeNull();
});
