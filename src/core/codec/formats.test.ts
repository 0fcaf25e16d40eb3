import fc from 'fast-check';
import { expect, it } from 'vitest';
import { VideoCodec } from './codecs';
import { CONTAINERS, Format, formatRate, formatRefusal, isSoundOnly } from './formats';
import { SampleRate } from './sample-rate';

const source = fc.record({
  picture: fc.option(
    fc.record({
      codec: fc.constantFrom(...VideoCodec.options),
      segments: fc.integer({ min: 1, max: 3 }),
      withCamera: fc.boolean(),
    }),
    { nil: null },
  ),
  hasSound: fc.boolean(),
});
const format = fc.constantFrom(...Format.options);

it('refuses nothing that its container holds, and makes nothing that it does not', () => {
  fc.assert(
    fc.property(format, source, (format, source) => {
      const { video } = CONTAINERS[format];
      const { picture } = source;
      // The plain video is H.264 and one file, whatever was recorded; other codecs are copied from the screen's own segments.
      const holdsPicture =
        picture !== null &&
        (video.includes('h264') ||
          (video.includes(picture.codec) && !picture.withCamera && picture.segments === 1));
      const holds = isSoundOnly(format) ? source.hasSound : holdsPicture;
      const refusal = formatRefusal(format, source);
      expect(refusal === null).toBe(holds);
      if (refusal) expect(refusal).toMatch(/^[A-Z].*\.$/);
    }),
  );
});

it('keeps the recorded rate where the format holds it, and the rate of video where it does not', () => {
  const rates = SampleRate.options.map(({ value }) => value);
  fc.assert(
    fc.property(format, fc.option(fc.constantFrom(...rates), { nil: null }), (format, recorded) => {
      const rate = formatRate(format, recorded);
      expect(CONTAINERS[format].rates).toContain(rate);
      if (recorded !== null && CONTAINERS[format].rates.includes(recorded)) expect(rate).toBe(recorded);
      else expect(rate).toBe(48_000);
    }),
  );
});
