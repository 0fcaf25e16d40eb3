import { expect, it } from 'vitest';
import { DESTINATIONS, type Destination } from '../destination/destination';
import { madeChannels, madeKbps } from './made-sound';

const of = (id: string): Destination => DESTINATIONS.find((one) => one.id === id) as Destination;
const MONO = { channels: 1 };
const STEREO = { channels: 2 };

it('makes one channel of what was recorded in one, only where the smallest file is wanted', () => {
  expect(madeChannels(of('message-attachment'), [MONO, MONO])).toBe(1);
  expect(madeChannels(of('message-attachment'), [MONO, STEREO])).toBe(2);
  expect(madeChannels(of('hd-video-host'), [MONO])).toBe(2);
  expect(madeChannels(of('as-recorded'), [MONO])).toBe(2);
});

it('gives one channel two thirds of what two get, but never less than speech needs, nor more than is allowed', () => {
  expect(madeKbps(of('message-attachment'), 1)).toBe(64);
  expect(madeKbps(of('course-platform'), 1)).toBe(85);
  expect(madeKbps(of('course-platform'), 2)).toBe(128);
  const quiet = of('message-attachment');
  expect(madeKbps({ ...quiet, sound: { ...quiet.sound, kbps: 48 } }, 1)).toBe(48);
  expect(madeKbps({ ...quiet, sound: { ...quiet.sound, codec: 'opus', kbps: 48 } }, 1)).toBe(40);
  // Samples × bits, whatever is asked of an encoder that there is none of.
  expect(madeKbps(of('editor'), 1)).toBe(1152);
});
