import fc from 'fast-check';
import { expect, it } from 'vitest';
import { PRACTICE_RIG, type Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import { type MeasuredTake, measuredFor } from './measured';
import { automaticBitrateKbps, trackRates } from './rate';

const KBPS = { screen: 900, camera: 300, voice: 60, appSound: 90 };
const measured: MeasuredTake = {
  startedAt: '2026-11-28T10:00:00.000Z',
  rig: PRACTICE_RIG,
  kbps: KBPS,
};

it('says nothing less of a rig that only names its files otherwise', () => {
  const harmless: ((rig: Rig) => Rig)[] = [
    (rig) => withValue(rig, 'names.pattern', '{date} {take}'),
    (rig) => withValue(rig, 'plannedLengthS', 600),
    (rig) => withValue(rig, 'countdownS', 0),
    (rig) => withValue(rig, 'formats', ['webm']),
    (rig) => withValue(rig, 'voice.gainDb', 6),
  ];
  fc.assert(
    fc.property(fc.subarray(harmless), (changes) => {
      const rig = changes.reduce((rig, change) => change(rig), PRACTICE_RIG);
      expect(measuredFor(measured, rig)).toEqual(KBPS);
    }),
  );
});

it('says nothing of a picture that is recorded otherwise, and of each sound alone', () => {
  const weighs: Rig[] = [
    withValue(PRACTICE_RIG, 'picture.box', null),
    withValue(PRACTICE_RIG, 'picture.frameRate', { num: 15, den: 1 }),
    withValue(PRACTICE_RIG, 'picture.codec', 'av1'),
    withValue(PRACTICE_RIG, 'picture.bitrateKbps', 800),
    withValue(PRACTICE_RIG, 'camera.size', { width: 320, height: 240 }),
    { ...PRACTICE_RIG, camera: null },
  ];
  for (const rig of weighs) expect(measuredFor(measured, rig)).toBeNull();
  const otherVoice = withValue(PRACTICE_RIG, 'voice.source', { from: 'practice', id: 'room' } as never);
  expect(measuredFor(measured, otherVoice)).toEqual({ ...KBPS, voice: null });
  expect(measuredFor(measured, withValue(PRACTICE_RIG, 'sound.voiceKbps', 128))).toEqual({
    ...KBPS,
    voice: null,
    appSound: null,
  });
});

it('asks for no less where there is more to encode', () => {
  const side = fc.integer({ min: 16, max: 2000 }).map((half) => 2 * half);
  fc.assert(
    fc.property(
      side,
      side,
      fc.integer({ min: 0, max: 500 }),
      fc.integer({ min: 1, max: 60 }),
      (width, height, more, fps) => {
        const rate = { num: fps, den: 1 };
        const kbps = automaticBitrateKbps({ width, height }, rate);
        expect(automaticBitrateKbps({ width: width + 2 * more, height }, rate)).toBeGreaterThanOrEqual(kbps);
        expect(automaticBitrateKbps({ width, height }, { num: fps + more, den: 1 })).toBeGreaterThanOrEqual(
          kbps,
        );
      },
    ),
  );
  const rates = trackRates(PRACTICE_RIG, { width: 1280, height: 720 });
  const { total, ...each } = rates;
  expect(Object.values(each).reduce((sum, kbps) => sum + kbps, 0)).toBe(total);
});
