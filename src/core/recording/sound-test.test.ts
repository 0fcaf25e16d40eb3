import { expect, it } from 'vitest';
import { louderMicrophone, type SoundTest, soundTestWords } from './sound-test';

const GOOD: SoundTest = {
  ...{ label: 'Desk microphone', at: '2027-03-04T06:05:00.000Z' },
  ...{ lufs: -18, peakDbtp: -6, roomLufs: null, clipped: 0, hum: null, keptBytes: 0, others: [] },
};
const verdict = (found: Partial<SoundTest>) => soundTestWords({ ...GOOD, ...found })[0];

it('judges a level at each of its borders', () => {
  expect(verdict({})).toBe('Good level.');
  expect(verdict({ peakDbtp: -2 })).toBe('Good level.');
  expect(verdict({ peakDbtp: -1.9 })).toBe('It is a little too loud.');
  expect(verdict({ peakDbtp: -20 })).toBe('Good level.');
  expect(verdict({ peakDbtp: -20.1 })).toBe('It is quiet: go nearer, or turn it up.');
  expect(verdict({ clipped: 1, peakDbtp: -6 })).toBe('It clips: turn the microphone down.');
  expect(verdict({ lufs: null })).toBe('Nothing was heard.');
});

it('tells room noise only where it lies clearly under the voice', () => {
  const words = (roomLufs: number | null) => soundTestWords({ ...GOOD, roomLufs }).join(' ');
  expect(words(-24)).not.toContain('room noise');
  expect(words(-24.1)).toContain('room noise');
  expect(words(null)).not.toContain('room noise');
  expect(soundTestWords({ ...GOOD, hum: { hertz: 50, levelDb: -52 } }).at(-1)).toBe('hum of 50 Hz at −52 dB');
});

it('points to another microphone that hears the voice more than 10 LU louder, and to no other', () => {
  const other = (lufs: number) => ({
    ...GOOD,
    lufs: -40,
    others: [
      {
        source: { from: 'device', id: 'b', label: 'Camera microphone' } as const,
        label: 'Camera microphone',
        lufs,
      },
    ],
  });
  expect(louderMicrophone(other(-30))).toBeNull();
  expect(louderMicrophone(other(-29.9))?.label).toBe('Camera microphone');
  // So quiet, it is not a voice that it hears.
  expect(louderMicrophone({ ...other(-50), lufs: null })).toBeNull();
  expect(louderMicrophone({ ...GOOD, lufs: null })).toBeNull();
});
