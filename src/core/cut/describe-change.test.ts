import { expect, test } from 'vitest';
import { newStepId, newTakeId } from '../base/ids';
import { type Cut, defaultCut } from './cut';
import { describeChange, isReplaced } from './describe-change';
import { join, remove, setGains, setLayout, setTitle, split } from './edits';
import { moveSteps } from './whole-steps';

const gains = { voiceDb: 0, appSoundDb: 0 };
const whole = (): Cut =>
  defaultCut(newStepId(), { id: newTakeId(), durationUs: 60_000_000, camera: null, gains });

test('each edit is named by what it did', () => {
  const cut = whole();
  const second = newStepId();
  const halves = split(cut, 30_000_000, second);
  const [first] = halves.steps;
  expect(describeChange(cut, halves)).toBe('Split step 1');
  expect(describeChange(halves, join(halves, second))).toBe('Joined step 2 to the step before it');
  expect(describeChange(cut, remove(cut, 10_000_000, 17_000_000))).toBe('Deleted 0:07');
  expect(describeChange(remove(cut, 10_000_000, 17_000_000), cut)).toBe('Added 0:07');
  expect(describeChange(cut, remove(cut, 0, 400_000))).toBe('Deleted 0.4 s');
  expect(describeChange(halves, setTitle(halves, second, 'Intro'))).toBe('Renamed a step “Intro”');
  expect(describeChange(halves, moveSteps(halves, [second], first?.id ?? null))).toBe('Moved a step');
  expect(
    describeChange(
      cut,
      setLayout(cut, cut.steps[0]?.id ?? second, { kind: 'camera', mirror: false, key: null }),
    ),
  ).toBe('Changed the layout of step 1');
  expect(describeChange(cut, setGains(cut, cut.steps[0]?.id ?? second, { ...gains, voiceDb: 3 }))).toBe(
    'Changed the sound of step 1',
  );
});

test('a cut of another take replaces the one before, a cut that keeps a piece of it does not', () => {
  const [a, b] = [whole(), whole()];
  expect(isReplaced(a, b)).toBe(true);
  expect(describeChange(a, b)).toBe('Replaced by another take');
  expect(isReplaced(a, { ...a, steps: [...a.steps, ...b.steps] })).toBe(false);
});
