import { expect, it } from 'vitest';
import { notRecorded, openingOf } from './not-recorded';

const problem = { code: 'gone', message: 'The camera is unplugged.', hint: 'Plug it in.' };

it('names what a take misses while it is recorded: what failed and what is not open yet, and nothing that is open', () => {
  const states = {
    screen: { state: 'open' },
    camera: { state: 'failed', problem },
    voice: { state: 'opening' },
    'app-sound': { state: 'absent' },
  } as const;
  expect(notRecorded(states).map(({ role, problem }) => `${role}: ${problem.message}`)).toEqual([
    'camera: The camera is unplugged.',
    'voice: Not recorded yet: the source is still opening.',
  ]);
  expect(openingOf(states)).toEqual(['voice']);
});
