import { describe, expect, it } from 'vitest';
import { gainOf } from '../base/decibels';
import { openHum } from './hum';
import { openChannels } from './sound-heard';

const RATE = 48_000;
/** Seconds of a sound that is a function of the sample's number. */
const sound = (seconds: number, at: (i: number) => number) =>
  Float32Array.from({ length: RATE * seconds }, (_, i) => at(i));
const sine = (hertz: number, i: number) => Math.sin((2 * Math.PI * hertz * i) / RATE);
const mains = (hertz: number, db: number) => (i: number) =>
  gainOf(db) * (sine(hertz, i) + 0.5 * sine(2 * hertz, i) + 0.3 * sine(3 * hertz, i));

function heard(samples: Float32Array) {
  const ears = openHum(RATE);
  for (let at = 0; at < samples.length; at += 441) ears.push(samples.subarray(at, at + 441));
  return ears.hum();
}

/** A voice whose pitch moves about a frequency, with an overtone. */
function voiceAt(hertz: number, moves: number): (i: number) => number {
  let phase = 0;
  return (i) => {
    phase += (2 * Math.PI * (hertz + moves * sine(0.7, i))) / RATE;
    return 0.1 * Math.sin(phase) + 0.05 * Math.sin(2 * phase);
  };
}

describe('hum', () => {
  it('is found with its frequency and level, under speech-like sound too', () => {
    for (const hertz of [50, 60] as const) {
      const voice = voiceAt(300, 80);
      const found = heard(sound(5, (i) => mains(hertz, -50)(i) + voice(i)));
      expect(found?.hertz).toBe(hertz);
      // Its three parts together: 1.34 times the power of the first.
      expect(Math.abs((found?.levelDb ?? 0) + 48.7)).toBeLessThan(1);
    }
  });

  it('is not a deep voice that moves, nor noise, nor what lasts only for a moment', () => {
    expect(heard(sound(5, voiceAt(105, 25)))).toBeNull();
    expect(heard(sound(5, (i) => 0.01 * (Math.imul(i ^ (i >>> 7), 0x2c1b3c6d) / 2 ** 31)))).toBeNull();
    expect(heard(sound(5, (i) => (i < 2 * RATE ? mains(50, -40)(i) : 0)))).toBeNull();
  });
});

it('tells two channels of one microphone from two', () => {
  const told = (left: (i: number) => number, right: (i: number) => number) => {
    const channels = openChannels();
    channels.push([sound(1, left), sound(1, right)]);
    return channels.oneChannel();
  };
  const voice = (i: number) => 0.2 * sine(300, i);
  expect(told(voice, voice)).toBe('same');
  expect(told(voice, () => 0)).toBe('silent');
  expect(told(voice, (i) => 0.2 * sine(310, i))).toBeNull();
  expect(
    told(
      () => 0,
      () => 0,
    ),
  ).toBeNull();
});
