import fc from 'fast-check';
import { expect, it } from 'vitest';
import { STAGES, stagesDone, takeTitle } from './lesson';

it('ticks a stage for what it left, in the order of the stages, and never one that leaves nothing', () => {
  fc.assert(
    fc.property(
      fc.boolean(),
      fc.boolean(),
      fc.boolean(),
      fc.boolean(),
      (rehearsed, recorded, cut, handedOver) => {
        const done = stagesDone({ rehearsed, recorded, cut, handedOver });
        expect(done.includes('set-up')).toBe(recorded);
        expect(done.includes('record')).toBe(recorded);
        expect(done.includes('edit')).toBe(cut);
        expect(done.includes('hand-over')).toBe(handedOver);
        expect(done.includes('rehearse')).toBe(rehearsed);
        expect(STAGES.map(({ key }) => key).filter((key) => done.includes(key))).toEqual(done);
      },
    ),
  );
});

it('names a take by its number until it is given a name', () => {
  expect([1, 9, 10].map((number) => takeTitle({ number }))).toEqual(['First take', 'Ninth take', 'Take 10']);
  expect(takeTitle({ title: 'The good one', number: 2 })).toBe('The good one');
});
