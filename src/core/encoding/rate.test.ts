import fc from 'fast-check';
import { expect, it } from 'vitest';
import { FIRST_TREATMENT } from '../audio/treatment';
import { aboutBitrateText, aboutBytesText, bitrateText, significant } from '../base/figures';
import { PRACTICE_RIG, type Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import { flowOf } from './flow';
import { rawSoundKbps, soundChannels, trackRates } from './rate';

const source = { width: 1920, height: 1080 };
const sounds = fc.record({
  codec: fc.constantFrom('opus', 'pcm', 'pcm-24' as const),
  sampleRate: fc.constantFrom(null, 48_000, 44_100, 24_000, 16_000 as const),
  channels: fc.constantFrom(1, 2 as const),
  deviceRate: fc.constantFrom(undefined, null, 44_100, 96_000),
  given: fc.constantFrom(undefined, null, 1, 2),
});

it('counts raw sound by its channels, its rate and its bits', () => {
  fc.assert(
    fc.property(sounds, ({ codec, sampleRate, channels, deviceRate, given }) => {
      const rig: Rig = withValue(
        withValue(PRACTICE_RIG, 'sound', { ...PRACTICE_RIG.sound, codec, sampleRate }),
        'voice.channels',
        channels,
      );
      const rate = sampleRate ?? deviceRate ?? 48_000;
      const bits = codec === 'pcm-24' ? 24 : 16;
      const device = { sampleRate: deviceRate, channels: given };
      const most = given ?? 2;
      expect(rawSoundKbps(rig, 'voice', device)).toBe((Math.min(channels, most) * rate * bits) / 1000);
      expect(rawSoundKbps(rig, 'appSound', device)).toBe((most * rate * bits) / 1000);
      const rates = trackRates(rig, source, undefined, { voice: device });
      if (codec === 'opus') expect(rates.voice).toBe(rig.sound.voiceKbps);
      else expect(rates.voice).toBe(rawSoundKbps(rig, 'voice', device));
      expect(rates.total).toBe(rates.screen + rates.camera + rates.voice + rates.appSound);
    }),
  );
  const stereo = withValue(PRACTICE_RIG, 'voice.channels', 2);
  expect(soundChannels(stereo, 'voice')).toBe(2);
  const processed = withValue(
    withValue(stereo, 'voice.treatment', { ...FIRST_TREATMENT, denoise: true }),
    'voice.treated',
    'while-recording',
  );
  expect(soundChannels(processed, 'voice')).toBe(1);
});

it('writes an estimate with two digits, so that what a reader adds up agrees', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1000, max: 2_000_000_000 }), (bits) => {
      const [number, unit] = aboutBitrateText(bits).split(' ');
      const by = { 'kb/s': 1e3, 'Mb/s': 1e6, 'Gb/s': 1e9 }[unit ?? ''] ?? 0;
      expect(Math.abs(Number(number) * by - bits)).toBeLessThanOrEqual(bits * 0.051);
      expect((number ?? '').replace(/[.]/g, '').replace(/^0+|0+$/g, '').length).toBeLessThanOrEqual(2);
    }),
  );
  expect([aboutBitrateText(1_234_000), aboutBitrateText(340_123), aboutBitrateText(996_000)]).toEqual([
    '1.2 Mb/s',
    '340 kb/s',
    '1 Mb/s',
  ]);
  expect(aboutBytesText(22_345_678)).toBe('22 MB');
  expect(significant(0, 2)).toBe(0);
  expect(bitrateText(2_900_000)).toBe('2.90 Mb/s');
});

it('shows bands that add up to the file as they are written', () => {
  const flow = flowOf(PRACTICE_RIG, { source, codec: 'h264', textHint: true });
  const bands = [flow.screen?.encoded, flow.camera?.encoded, flow.voice?.encoded, flow.appSound?.encoded];
  const written = (value: number) => {
    const [number, unit] = aboutBitrateText(value).split(' ');
    return Number(number) * (unit === 'Mb/s' ? 1e6 : 1e3);
  };
  const sum = bands.reduce((all, band) => all + written(band?.value ?? 0), 0);
  expect(Math.abs(sum - flow.file.value) / flow.file.value).toBeLessThan(0.05);
});
