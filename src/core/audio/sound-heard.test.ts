import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Heard, levelVerdict, lufsText, noisyRoom, underVoice } from './sound-heard';

const SPEECH: Heard = {
  shortTermLufs: -24,
  quietLufs: -70,
  peakDbtp: -6,
  clipped: 0,
  hum: null,
  oneChannel: null,
};

it('calls a level good of peaks and loudness together, and says what export does', () => {
  expect(levelVerdict(SPEECH)).toEqual({
    good: true,
    sentence: 'Good level: peaks −6 dBTP, loudness −24 LUFS. Export raises it by 8 dB (to −16 LUFS).',
  });
  expect(levelVerdict({ ...SPEECH, shortTermLufs: -12 })?.sentence).toContain('lowers it by 4 dB');
  expect(levelVerdict({ ...SPEECH, shortTermLufs: -16.2 })?.sentence).toContain('leaves it as it is');
  // High peaks of a door do not make quiet speech loud.
  expect(levelVerdict({ ...SPEECH, shortTermLufs: -40 })?.good).toBe(false);
  expect(levelVerdict({ ...SPEECH, clipped: 3 })?.sentence).toBe('It clips: turn the microphone down.');
  for (const silent of [{ peakDbtp: null }, { peakDbtp: -72 }, { shortTermLufs: null }])
    expect(levelVerdict({ ...SPEECH, ...silent })).toBeNull();
});

it('never names a level that cannot be measured, nor a hyphen for a minus', () => {
  fc.assert(
    fc.property(fc.double({ min: -160, max: 0, noNaN: true }), (lufs) => {
      const text = lufsText(lufs);
      expect(text).not.toMatch(/-\d/);
      const said = Number(text.match(/−?\d+/)?.[0].replace('−', '-'));
      expect(said).toBeGreaterThanOrEqual(-90);
      if (lufs < -90) expect(text).toBe('below −90 LUFS');
      else expect(Math.abs(said - lufs)).toBeLessThanOrEqual(0.5);
    }),
  );
});

it('measures how far app sound lies under the voice with its gain, and knows a pause from a noisy room', () => {
  const app: Heard = { ...SPEECH, shortTermLufs: -30 };
  expect(underVoice(SPEECH, app, -12)).toBe(18);
  expect(underVoice(SPEECH, app, 0)).toBe(6);
  expect(underVoice(SPEECH, { ...app, shortTermLufs: -65 }, 0)).toBeNull();
  expect(noisyRoom({ ...SPEECH, quietLufs: -45 })).toBe(21);
  expect(noisyRoom({ ...SPEECH, quietLufs: -27 })).toBeNull();
  expect(noisyRoom({ ...SPEECH, quietLufs: -80 })).toBeNull();
});
