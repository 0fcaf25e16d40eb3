import { expect, it } from 'vitest';
import { DESTINATIONS } from '../destination/destination';
import { pictureEncoderArgs } from './encoder-args';

const RATE = { num: 30, den: 1 };
const given = (args: readonly string[], name: string) => args[args.indexOf(name) + 1];

it('keeps every destination’s level in its references and its keyframe distance in its groups', () => {
  for (const destination of DESTINATIONS) {
    const h264 = { ...destination, video: { ...destination.video, codecs: ['h264' as const] } };
    const args = pictureEncoderArgs(h264, RATE, 22, { width: 1920, height: 1080 });
    expect(given(args, '-g'), destination.name).toBe(String(30 * (destination.video.keyframeEveryS ?? 10)));
    if (destination.aim === 'editing') continue;
    // Level 4.2 keeps four pictures of 1080 lines; where a destination takes a higher one, more than eight bring nothing.
    const atMost42 = (destination.video.h264?.maxLevel ?? 42) <= 42;
    expect(given(args, '-refs'), destination.name).toBe(atMost42 ? '4' : '8');
    const small = pictureEncoderArgs(h264, RATE, 22, { width: 1280, height: 720 });
    expect(given(small, '-refs'), destination.name).toBe('8');
  }
});
