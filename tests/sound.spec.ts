// How sound is kept: codec, rate, channels and level in the files; and a voice that is heard only while a key is held.
import { join } from 'node:path';
import { firstAppSound, firstVoice, type Rig } from '@/core/rig/rig';
import { samplesOf, text } from './support/card-film';
import { armed, CARD_RIG, expect, finished, recordEach, recordFor } from './support/studio';
import { test } from './support/test';

type Sound = Partial<Rig['sound']>;
const SETTINGS: [Sound, { codec: string; rate: number; channels: [number, number] }][] = [
  [
    { codec: 'opus', voiceKbps: 32, appKbps: 48 },
    { codec: 'opus', rate: 48_000, channels: [1, 1] },
  ],
  [
    { codec: 'opus', sampleRate: 24_000 },
    { codec: 'opus', rate: 48_000, channels: [1, 1] },
  ],
  [
    { codec: 'opus', sampleRate: 16_000 },
    { codec: 'opus', rate: 48_000, channels: [1, 1] },
  ],
  [{ codec: 'pcm' }, { codec: 'pcm_s16le', rate: 48_000, channels: [1, 1] }],
  [
    { codec: 'pcm', sampleRate: 44_100 },
    { codec: 'pcm_s16le', rate: 44_100, channels: [1, 1] },
  ],
  [
    { codec: 'pcm', sampleRate: 16_000 },
    { codec: 'pcm_s16le', rate: 16_000, channels: [1, 1] },
  ],
  [{ codec: 'pcm-24' }, { codec: 'pcm_s24le', rate: 48_000, channels: [1, 1] }],
  [
    { codec: 'pcm-24', sampleRate: 24_000 },
    { codec: 'pcm_s24le', rate: 24_000, channels: [1, 1] },
  ],
];
/** The high tone is half of full scale. */
const TONE_DB = -6.02;
const dB = (ratio: number) => 20 * Math.log10(ratio);
const rms = (samples: Float32Array) =>
  Math.sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);

/** The script begins a little before its take does, and its sound arrives a little later. */
const MOST_LAG = 0.3 * 48_000;

/** How many samples later than in `known` the same sound is in `samples`: where both are most alike; below 0 earlier. */
function lagOf(samples: Float32Array, known: Float32Array): number {
  const [from, length] = [0.3 * 48_000, 0.5 * 48_000];
  let best = { lag: 0, alike: Number.NEGATIVE_INFINITY };
  for (let lag = -MOST_LAG; lag < MOST_LAG; lag++) {
    let alike = 0;
    for (let i = from; i < from + length; i += 8) alike += (samples[i + lag] ?? 0) * (known[i] ?? 0);
    if (alike > best.alike) best = { lag, alike };
  }
  return best.lag;
}

test('sound is kept as each setting says: codec, rate, channels, and the level that was given', async ({
  studio: page,
}) => {
  test.setTimeout(300_000);
  const rigs = SETTINGS.map(
    ([sound]): Rig => ({
      ...CARD_RIG,
      picture: { ...CARD_RIG.picture, source: { from: 'none' } },
      camera: null,
      voice: firstVoice({ from: 'practice', id: 'voice' }),
      appSound: { ...firstAppSound({ from: 'practice', id: 'high-tone' }), gainDb: 0 },
      sound: { ...CARD_RIG.sound, ...sound },
    }),
  );
  const takes = await recordEach(page, rigs, 1600);
  const voice = await samplesOf('public/practice/voice.ogg');
  for (const [i, [sound, asked]] of SETTINGS.entries()) {
    const what = JSON.stringify(sound);
    const file = join(takes[i]?.folder ?? '', 'recorded.mkv');
    const probe = ['-v', 'error', '-show_entries', 'stream=codec_name,sample_rate,channels', '-of', 'json'];
    const { streams } = JSON.parse(await text('ffprobe', [...probe, file]));
    expect(
      streams.map((s: { codec_name: string; sample_rate: string; channels: number }) => [
        s.codec_name,
        Number(s.sample_rate),
        s.channels,
      ]),
      what,
    ).toEqual(asked.channels.map((channels) => [asked.codec, asked.rate, channels]));
    // The voice: as loud as it is known to be, word for word.
    const heard = await samplesOf(file, 'a:0');
    const lag = lagOf(heard, voice);
    const [from, to] = [0.3 * 48_000, 1.2 * 48_000];
    const loudness = rms(heard.subarray(from + lag, to + lag)) / rms(voice.subarray(from, to));
    expect(Math.abs(dB(loudness)), what).toBeLessThan(0.5);
    // A tone of 10 kHz: there where the rate can carry it; where it cannot, nothing of it comes back at another pitch.
    const tone = (await samplesOf(file, 'a:1')).subarray(0.5 * 48_000, 1.3 * 48_000);
    const toneDb = dB(rms(tone) * Math.SQRT2);
    if (sound.sampleRate === 16_000) expect(toneDb, what).toBeLessThan(TONE_DB - 60);
    else expect(Math.abs(toneDb - TONE_DB), what).toBeLessThan(0.5);
  }
});

test('a voice that is heard while a key is held is silent otherwise, without a click at the edges', async ({
  studio: page,
}) => {
  await armed(page, {
    ...CARD_RIG,
    picture: { ...CARD_RIG.picture, source: { from: 'none' } },
    camera: null,
    voice: { ...firstVoice({ from: 'practice', id: 'voice' }), talk: 'push' },
    appSound: null,
    sound: { ...CARD_RIG.sound, codec: 'pcm' },
  });
  await expect(page.getByRole('button', { name: /^Hold to talk/ })).toBeVisible();
  const { folder } = await recordFor(page, 1200, async () => {
    await page.waitForTimeout(1500);
    await page.keyboard.down('v');
    await expect(page.getByRole('button', { name: /^Talking/ })).toBeVisible();
    await page.waitForTimeout(2000);
    await page.keyboard.up('v');
  });
  await finished(page);
  const samples = await samplesOf(join(folder, 'recorded.mkv'));
  const heard = samples.findIndex((value) => value !== 0);
  const last = samples.findLastIndex((value) => value !== 0);
  expect(heard).toBeGreaterThan(48_000);
  expect(last - heard).toBeGreaterThan(1.5 * 48_000);
  expect(samples.length - last).toBeGreaterThan(0.5 * 48_000);
  const steepest = (from: number, to: number) => {
    let most = 0;
    for (let i = Math.max(1, from); i < Math.min(to, samples.length); i++)
      most = Math.max(most, Math.abs((samples[i] ?? 0) - (samples[i - 1] ?? 0)));
    return most;
  };
  // No sample of an edge leaps further than speech does automatically.
  const own = steepest(heard + 1000, last - 1000);
  expect(steepest(heard - 10, heard + 500)).toBeLessThanOrEqual(own);
  expect(steepest(last - 500, last + 10)).toBeLessThanOrEqual(own);
  expect(Math.abs(samples[heard] ?? 1)).toBeLessThan(0.01);
  expect(Math.abs(samples[last] ?? 1)).toBeLessThan(0.01);
});
