import { expect, it } from 'vitest';
import { DESTINATIONS } from '../destination/destination';
import { pictureEncoderArgs } from './encoder-args';

const RATE = { num: 30, den: 1 };
const given = (args: readonly string[], name: string) => args[args.indexOf(name) + 1];

it('keeps every destination’s level in its references', () => {
  for (const destination of DESTINATIONS) {
    const h264 = { ...destination, video: { ...destination.video, codecs: ['h264' as const] } };
    const args = pictureEncoderArgs(h264, RATE, 22, { width: 1920, height: 1080 });
    if (destination.aim === 'editing') continue;
    // Level 4.2 keeps four pictures of 1080 lines; where a destination takes a higher one, more than eight bring nothing.
    const atMost42 = (destination.video.h264?.maxLevel ?? 42) <= 42;
    expect(given(args, '-refs'), destination.name).toBe(atMost42 ? '4' : '8');
    const small = pictureEncoderArgs(h264, RATE, 22, { width: 1280, height: 720 });
    expect(given(small, '-refs'), destination.name).toBe('8');
  }
});

it('begins a group as often as the destination asks, and at least as often as people can seek in', () => {
  const groups = (keyframeEveryS: number | null) =>
    (['h264', 'av1'] as const).map((codec) => {
      const [first] = DESTINATIONS;
      if (!first) throw new Error('No destination ships.');
      const asked = { ...first, video: { ...first.video, codecs: [codec], keyframeEveryS } };
      return given(pictureEncoderArgs(asked, RATE, 22, { width: 1280, height: 720 }), '-g');
    });
  expect(groups(2.1)).toEqual(['63', '63']);
  expect(groups(9)).toEqual(['240', '270']);
  expect(groups(30)).toEqual(['240', '300']);
  expect(groups(null)).toEqual(['240', '300']);
});
