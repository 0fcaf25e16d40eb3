import fc from 'fast-check';
import { expect, it } from 'vitest';
import { envelopeDb } from '@/core/cut/envelope';
import { envelopes } from '../../tests/support/made-up';
import { enveloped } from './enveloped';

const RATE = 48_000;

it('is as loud as the envelope says at the time of each sample, at any speed, in all channels', () => {
  fc.assert(
    fc.property(
      envelopes(3_000_000),
      fc.integer({ min: 0, max: 2_000_000 }),
      fc.constantFrom(0.25, 1, 2),
      fc.nat(RATE / 10 - 1),
      (points, stepUs, speed, sample) => {
        const planes = [0.5, -0.25].map((value) => new Float32Array(RATE / 10).fill(value));
        const louder = enveloped({ takeUs: 7, sampleRate: RATE, planes }, points, stepUs, speed);
        // Told each millisecond: a leap lies at its beginning.
        const us = stepUs + ((sample - (sample % 48)) * 1e6 * speed) / RATE;
        const gain = 10 ** (envelopeDb(points, us) / 20);
        expect(louder.takeUs).toBe(7);
        expect(louder.planes.map((plane) => plane[sample])).toEqual([
          expect.closeTo(0.5 * gain, 5),
          expect.closeTo(-0.25 * gain, 5),
        ]);
        // What was decoded stays as it is: it may be heard again.
        expect(planes[0]?.[sample]).toBe(0.5);
      },
    ),
  );
});
