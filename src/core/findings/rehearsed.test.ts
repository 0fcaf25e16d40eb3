import { expect, it } from 'vitest';
import { rehearsed as aRehearsal, slowEncoder } from '../../../tests/support/made-up-rehearsal';
import { PRACTICE_RIG } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import { NO_FACTS } from './finding';
import { rehearsed } from './rehearsed';
import { tooSlow } from './too-slow';

const facts = { ...NO_FACTS, rehearsal: { of: aRehearsal(), ago: '3 minutes ago' } };

it('says what the newest rehearsal of this rig has shown, and when', () => {
  expect(rehearsed(PRACTICE_RIG, facts)).toMatchObject({
    weight: 'note',
    sentence: 'Rehearsed 3 minutes ago: this machine records this rig at 30 fps.',
  });
  const slow = { ...NO_FACTS, rehearsal: { of: aRehearsal({ trace: slowEncoder(45) }), ago: 'just now' } };
  expect(rehearsed(PRACTICE_RIG, slow)).toMatchObject({
    weight: 'warn',
    sentence: expect.stringMatching(/^Rehearsed just now: the encoder cannot sustain 30 fps/),
  });
});

it('says nothing of a rig that was changed in what weighs, and stands where only the rest was changed', () => {
  expect(rehearsed(withValue(PRACTICE_RIG, 'picture.textHint', 'off'), facts)).toBeNull();
  expect(rehearsed({ ...PRACTICE_RIG, camera: null }, facts)).toBeNull();
  expect(rehearsed({ ...PRACTICE_RIG, countdownS: 7, afterStop: 'hand-over' }, facts)).not.toBeNull();
  expect(rehearsed(PRACTICE_RIG, NO_FACTS)).toBeNull();
});

it('counts for more than what an encoder did alone', () => {
  const speeds = [
    {
      ...{ codec: 'h264' as const, textHint: false, framesPerSecond: 20, kbps: 900, hardware: false },
      ...{ quantizer: true, constantOverAverage: null },
    },
  ];
  const rig = withValue(PRACTICE_RIG, 'picture.codec', 'h264');
  const sources = { screen: { state: 'open' as const, size: { width: 1920, height: 1080 } } };
  expect(tooSlow(rig, { ...NO_FACTS, sources, speeds })).not.toBeNull();
  const of = aRehearsal({ rig });
  expect(tooSlow(rig, { ...NO_FACTS, sources, speeds, rehearsal: { of, ago: 'just now' } })).toBeNull();
});
