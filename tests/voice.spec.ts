// A voice that is treated: afterwards, so that what was recorded stays raw, or while it is recorded; and the test of a microphone.
import { join } from 'node:path';
import { UNTREATED } from '@/core/audio/treatment';
import { firstAppSound, firstVoice, type Rig } from '@/core/rig/rig';
import { beepOnsets, samplesOf } from './support/card-film';
import { armed, CARD_RIG, choose, expect, finished, recordEach, stretch } from './support/studio';
import { AT_LENGTH, test } from './support/test';

const practice = (id: string) => ({ from: 'practice', id }) as const;
const SOUND_ONLY: Rig = {
  ...CARD_RIG,
  picture: { ...CARD_RIG.picture, source: { from: 'none' } },
  camera: null,
  appSound: null,
  sound: { ...CARD_RIG.sound, codec: 'pcm' },
};
const RATE = 48_000;

/** Level of one frequency over a whole number of seconds, dBFS of a tone's peak. */
function toneDb(samples: Float32Array, hertz: number): number {
  const n = Math.floor(samples.length / RATE) * RATE;
  let [re, im] = [0, 0];
  for (let i = 0; i < n; i++) {
    re += (samples[i] ?? 0) * Math.cos((2 * Math.PI * hertz * i) / RATE);
    im += (samples[i] ?? 0) * Math.sin((2 * Math.PI * hertz * i) / RATE);
  }
  return 20 * Math.log10((2 * Math.hypot(re, im)) / n + 1e-9);
}

test('the recorded voice stays raw, the played voice is treated and moved in time; or it is treated while it is recorded', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  test.setTimeout(300_000);
  const clean = { highPassHz: 80, denoise: true, gateDb: null, compressor: null };
  const far = { ...firstVoice(practice('far-voice')), treatment: clean };
  const gated = { ...UNTREATED, denoise: true, gateDb: -40 };
  const [afterwards, live, moved] = await recordEach(
    page,
    [
      { ...SOUND_ONLY, voice: far },
      { ...SOUND_ONLY, voice: { ...far, treated: 'while-recording' } },
      {
        ...SOUND_ONLY,
        voice: { ...firstVoice(practice('beep')), treatment: gated, treated: 'while-recording' },
        appSound: { ...firstAppSound(practice('beep')), delayMs: 120, gainDb: 0 },
      },
    ],
    4500,
  );
  const raw = await samplesOf(join(afterwards?.folder ?? '', 'recorded.mkv'));
  const plain = await samplesOf(join(afterwards?.folder ?? '', 'plain.mp4'));
  const heard = await samplesOf(join(afterwards?.folder ?? '', 'voice.mka'));
  const kept = await samplesOf(join(live?.folder ?? '', 'recorded.mkv'));
  // 0.006 of full scale is −44 dB.
  expect(Math.abs(toneDb(raw, 50) + 44.4)).toBeLessThan(1);
  for (const treated of [heard, plain, kept]) expect(toneDb(treated, 50)).toBeLessThan(-64);
  expect(Math.abs(heard.length - raw.length)).toBeLessThan(RATE / 50);
  // Noise reduction and gate hear 30 ms ahead: what they let through lies where it was spoken. App sound is heard later as chosen.
  const folder = moved?.folder ?? '';
  const onsets = async (file: string, stream?: string) =>
    beepOnsets(await samplesOf(join(folder, file), stream));
  const voice = await onsets('recorded.mkv', 'a:0');
  const app = await onsets('recorded.mkv', 'a:1');
  const late = await onsets('app-sound.mka');
  expect([voice.length, app.length, late.length].filter((count) => count < 2)).toEqual([]);
  // A beep on the very edge of the take may be whole on one track only: each is compared with the nearest.
  const nearest = (to: number, all: number[]) => Math.min(...all.map((at) => Math.abs(at - to)));
  for (const at of voice.slice(1)) expect(nearest(at, app)).toBeLessThan(12_000);
  // Both files tell times in whole milliseconds, and an onset is found to half of one.
  for (const at of app.slice(0, -1)) expect(nearest(at + 120_000, late)).toBeLessThan(2000);

  // A take is treated otherwise afterwards, from the raw voice that it has.
  await page.goto(`/takes/${afterwards?.takeId}`);
  await finished(page);
  await page.getByText('Voice: high-pass at 80 Hz, noise reduction').click();
  await page.getByRole('checkbox', { name: 'Noise reduction' }).uncheck();
  await page.getByRole('checkbox', { name: 'High-pass' }).uncheck();
  await page.getByRole('button', { name: 'Reprocess' }).click();
  await expect(page.getByText('The take is being processed.')).toBeVisible();
  await expect(page.getByText('The recording itself is not changed.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('Voice: as recorded')).toBeVisible();
  const again = await samplesOf(join(afterwards?.folder ?? '', 'plain.mp4'));
  expect(Math.abs(toneDb(again, 50) + 44.4)).toBeLessThan(1);
});

test('a microphone is tested, played raw and processed, and a louder one beside it is found', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...SOUND_ONLY, voice: firstVoice(practice('far-voice')) });
  await page.getByRole('navigation').getByRole('link', { name: 'Set up' }).click();
  await stretch(page, 'Voice');
  const sound = page.getByRole('region', { name: 'Sound test' });
  await sound.getByRole('button', { name: 'Speak for 5 s' }).click();
  await expect(sound.getByText('Speak as loudly as in the lesson.')).toBeVisible();
  await expect(sound.getByText(/“Practice microphone, far away”: −\d\d LUFS, peaks −\d\d dB/)).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByText(/“Practice voice” picked you up \d\d LU louder/)).toBeVisible();
  for (const name of ['Play raw', 'Play processed']) {
    const button = sound.getByRole('button', { name });
    await button.click();
    await expect(button).toHaveAttribute('aria-pressed', 'true');
    if (name !== 'Play raw') await page.getByRole('checkbox', { name: 'Noise reduction' }).check();
    await expect(button).toHaveAttribute('aria-pressed', 'false', { timeout: 20_000 });
  }
  // Kept for this device.
  await choose(page, 'Voice', 'Practice voice');
  await expect(sound.getByRole('button', { name: 'Speak for 5 s' })).toBeVisible();
  await page.waitForTimeout(1000);
  await page.reload();
  await stretch(page, 'Voice');
  await choose(page, 'Voice', 'Practice microphone, far away');
  await expect(sound.getByRole('button', { name: 'Play raw' })).toBeVisible();
  await page.getByRole('button', { name: 'Use “Practice voice”' }).click();
  await expect(page.getByText(/picked you up/)).toBeHidden();
});
