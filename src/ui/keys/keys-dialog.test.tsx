// @vitest-environment jsdom

import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent, { PointerEventsCheckLevel } from '@testing-library/user-event';
import { afterEach, beforeAll, beforeEach, expect, it } from 'vitest';
import { ACTION_IDS, ACTIONS, type ActionId, conflictOf, keysOf } from '@/core/views/keys';
import { completeBrowser } from '../../../tests/support/jsdom';
import { changeKeys } from './key-changes';
import { KeysDialog } from './keys-dialog';

beforeAll(completeBrowser);
beforeEach(() => {
  changeKeys({});
  render(<KeysDialog onClose={() => undefined} />);
});
afterEach(cleanup);

const kept = () => JSON.parse(localStorage.getItem('keys') ?? '{}') as Record<string, unknown>;
// Asking for a role computes the name of every button, of which there are a hundred.
const button = (id: ActionId) =>
  screen.getByLabelText(`Key for ${ACTIONS[id].group}: ${ACTIONS[id].name}`, { selector: 'button' });
const give = async (id: ActionId, keys: string) => {
  await userEvent.click(button(id), { pointerEventsCheck: PointerEventsCheckLevel.Never });
  await userEvent.keyboard(keys);
};

/** An action, and another of the same page whose key it cannot have. */
const [ONE, OTHER] = ((): [ActionId, ActionId] => {
  for (const one of ACTION_IDS)
    for (const key of keysOf(one, {})) {
      const other = ACTION_IDS.find((id) => id !== one && conflictOf(id, key, {}) === one);
      if (other) return [one, other];
    }
  throw new Error('Some page has two actions.');
})();

it('keeps a new key in the browser, and forgets it again', async () => {
  await give(ONE, 'y');
  expect(kept()).toHaveProperty([ONE]);
  expect(button(ONE).textContent).toBe('Y');
  await userEvent.click(screen.getByRole('button', { name: 'Restore', hidden: true }));
  expect(kept()).toEqual({});
});

it('refuses a key that another action of the page has, and gives it on one click', async () => {
  const [key = ''] = keysOf(ONE, {});
  const typed = key.length === 1 ? key : null;
  if (typed === null) throw new Error(`${ONE} has a letter.`);
  await give(OTHER, typed);
  const alert = screen.getByRole('alert', { hidden: true });
  expect(alert.textContent).toContain(`“${ACTIONS[ONE].name}”`);
  expect(kept()).toEqual({});
  await userEvent.click(within(alert).getByRole('button', { name: 'Use it here', hidden: true }));
  expect(button(OTHER).textContent).toBe(typed.toUpperCase());
  expect(button(ONE).textContent).toBe('None');
  await userEvent.click(screen.getByRole('button', { name: 'Restore defaults', hidden: true }));
  expect(button(ONE).textContent).not.toBe('None');
});

it('waits for a key that is more than Shift alone', async () => {
  await give(ONE, '{Shift}');
  expect(button(ONE).textContent).toBe('Press a key …');
});
