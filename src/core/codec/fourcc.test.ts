import { expect, it } from 'vitest';
import { codecString } from './codec-string';
import { CODEC_NAMES, VideoCodec } from './codecs';
import { codecOfString, recordedCodecName } from './fourcc';

it.each(VideoCodec.options)('knows %s by the codec string that is made for it', (codec) => {
  const made = codecString(codec, {
    size: { width: 1280, height: 720 },
    rate: { num: 30, den: 1 },
    bitrateKbps: 2000,
  });
  expect(codecOfString(made)).toBe(codec);
  expect(recordedCodecName(made)).toBe(CODEC_NAMES[codec]);
});

it('takes no sound for a picture, and leaves what it does not know its name', () => {
  expect([codecOfString('opus'), codecOfString('pcm-s16'), codecOfString(''), codecOfString('h264')]).toEqual(
    [null, null, null, null],
  );
  expect([recordedCodecName('pcm-s24'), recordedCodecName('hev1.1.6')]).toEqual(['PCM 24 bit', 'hev1.1.6']);
});
