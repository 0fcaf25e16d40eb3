import fc from 'fast-check';
import { expect, it } from 'vitest';
import { isTreated, UNTREATED } from '../audio/treatment';
import { TREATMENT_RATE } from '../audio/treatment-line';
import { PRACTICE_RIG, type Rig } from '../rig/rig';
import { heardInput, SOUND_TRACKS, soundWork } from './heard-sound';
import { isSound, type PlainInput } from './plain-input';

const treatment = fc.record({
  highPassHz: fc.option(fc.constant(90), { nil: null }),
  denoise: fc.boolean(),
  gateDb: fc.option(fc.constant(-45), { nil: null }),
  compressor: fc.constant(null),
});
const delayMs = fc.constantFrom(0, -120, 40);
const rig: fc.Arbitrary<Rig> = fc
  .record({
    treatment,
    treated: fc.constantFrom('afterwards' as const, 'while-recording' as const),
    voiceMs: delayMs,
    appMs: delayMs,
    withVoice: fc.boolean(),
  })
  .map(({ treatment, treated, voiceMs, appMs, withVoice }) => ({
    ...PRACTICE_RIG,
    voice:
      withVoice && PRACTICE_RIG.voice
        ? { ...PRACTICE_RIG.voice, treatment, treated, delayMs: voiceMs }
        : null,
    appSound: PRACTICE_RIG.appSound && { ...PRACTICE_RIG.appSound, delayMs: appMs },
  }));

it('makes a sound again only where something is done to it', () => {
  fc.assert(
    fc.property(rig, fc.option(treatment, { nil: null }), (rig, own) => {
      const work = soundWork(rig, own);
      const asked = own ?? (rig.voice?.treated === 'afterwards' ? rig.voice.treatment : UNTREATED);
      expect('voice' in work).toBe(isTreated(asked) || (rig.voice?.delayMs ?? 0) !== 0);
      expect('app-sound' in work).toBe((rig.appSound?.delayMs ?? 0) !== 0);
      // What programs play is never processed, only moved.
      expect(work['app-sound']?.treatment ?? UNTREATED).toEqual(UNTREATED);
      if (work.voice) expect(work.voice.treatment).toEqual(asked);
    }),
  );
});

it('stands for the whole take, with the channels of what it is made of', () => {
  const segment = fc
    .record({ track: fc.constantFrom(...SOUND_TRACKS, 'screen' as const), channels: fc.constantFrom(1, 2) })
    .map(({ track, channels }): PlainInput => {
      const configuration = {
        type: 'audio' as const,
        codec: 'opus',
        sampleRate: 44_100,
        channels,
        bitrateKbps: 96,
      };
      return { track, path: '', startUs: 500, encoderDelayUs: 6500, timesUs: [500], configuration };
    });
  fc.assert(
    fc.property(
      fc.constantFrom(...SOUND_TRACKS),
      fc.array(segment),
      fc.integer({ min: 1, max: 1e9 }),
      treatment,
      (track, segments, durationUs, treatment) => {
        const heard = heardInput(track, '/heard', segments, durationUs, treatment);
        expect(isSound(heard) && heard.configuration.sampleRate).toBe(TREATMENT_RATE);
        expect([heard.startUs, heard.encoderDelayUs, heard.timesUs]).toEqual([0, 0, [0, durationUs]]);
        const own = segments.filter((one) => one.track === track && isSound(one));
        const two = own.some((one) => isSound(one) && one.configuration.channels === 2);
        const channels = !isTreated(treatment) && two ? 2 : 1;
        expect(isSound(heard) && heard.configuration.channels).toBe(channels);
      },
    ),
  );
});
