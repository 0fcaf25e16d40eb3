import fc from 'fast-check';
import { expect, it } from 'vitest';
import { VideoCodec } from '../codec/codecs';
import { NO_FACTS } from '../findings/finding';
import { tooSlow } from '../findings/too-slow';
import { PRACTICE_RIG } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import type { EncoderSpeed } from './encoder-speed';
import { NOTHING_MEASURED, planEncoding, textHintOf } from './encoding-plan';

const size = { width: 1280, height: 720 };
const speed = (codec: VideoCodec, textHint: boolean, framesPerSecond: number): EncoderSpeed => ({
  codec,
  textHint,
  framesPerSecond,
  kbps: 500,
  hardware: null,
  quantizer: codec !== 'h264',
  constantOverAverage: null,
});
const speeds = fc
  .array(fc.tuple(fc.constantFrom(...VideoCodec.options), fc.boolean(), fc.integer({ min: 5, max: 300 })), {
    maxLength: 6,
  })
  .map((all) => all.map(([codec, hint, fps]) => speed(codec, hint, fps)));
const hints = fc.dictionary(fc.constantFrom(...VideoCodec.options), fc.integer({ min: 2, max: 90 }));
const pictures = fc.record({
  codec: fc.constantFrom('automatic' as const, ...VideoCodec.options),
  frameRate: fc.constantFrom({ num: 15, den: 1 }, { num: 30, den: 1 }, { num: 60, den: 1 }),
  rateControl: fc.constantFrom('average', 'constant', 'quantizer' as const),
  textHint: fc.constantFrom('automatic', 'on', 'off' as const),
  bitrateKbps: fc.option(fc.integer({ min: 100, max: 9000 })),
});

it('plans the same hint as the recorder takes from the plan’s own figure', () => {
  fc.assert(
    fc.property(pictures, speeds, hints, (picture, measured, hintMs) => {
      const plan = planEncoding(picture, size, { speeds: measured, hintMs });
      // The worker is told the time and decides again: it must come to the same.
      expect(textHintOf(picture, size, plan.hintMs)).toEqual(plan.hint);
      if (picture.codec !== 'automatic') expect(plan.codec).toBe(picture.codec);
      expect(plan.bitrateKbps).toBe(picture.bitrateKbps ?? plan.automaticKbps);
      if (picture.textHint !== 'automatic') expect(plan.hint.hint).toBe(picture.textHint === 'on');
      if (plan.framesPerSecond !== undefined)
        expect(measured.map((each) => each.framesPerSecond)).toContain(plan.framesPerSecond);
    }),
  );
});

it('believes a take more than a probe', () => {
  const probed = { speeds: [speed('h264', true, 200), speed('h264', false, 300)], hintMs: {} };
  expect(planEncoding(PRACTICE_RIG.picture, size, probed).hint.hint).toBe(true);
  const seen = { ...probed, hintMs: { h264: 40 } };
  const plan = planEncoding(PRACTICE_RIG.picture, size, seen);
  expect(plan.hint).toEqual({ hint: false, reason: 'a frame with the text hint takes 40 ms of 33' });
  expect(plan.framesPerSecond).toBe(300);
  expect(planEncoding(PRACTICE_RIG.picture, size, NOTHING_MEASURED).framesPerSecond).toBeUndefined();
});

it('finds an encoder too slow exactly where the plan’s own figure says so', () => {
  fc.assert(
    fc.property(pictures, speeds, (picture, measured) => {
      const rig = { ...PRACTICE_RIG, picture: { ...PRACTICE_RIG.picture, ...picture, box: null } };
      const facts = { ...NO_FACTS, speeds: measured, sources: { screen: { state: 'open' as const, size } } };
      const plan = planEncoding(rig.picture, size, { speeds: measured, hintMs: {} });
      const asked = picture.frameRate.num / picture.frameRate.den;
      const slow = plan.framesPerSecond !== undefined && plan.framesPerSecond < asked * 1.5;
      expect(tooSlow(rig, facts) !== null).toBe(slow);
    }),
  );
  expect(tooSlow(withValue(PRACTICE_RIG, 'picture.source', { from: 'none' }), NO_FACTS)).toBeNull();
});
