// Nothing but sound: no picture and no camera, in the rig, on every page and in the files.
import { join } from 'node:path';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { launch } from './support/browser';
import { samplesOf, text } from './support/card-film';
import { rows } from './support/processes';
import {
  armed,
  CARD_RIG,
  choose,
  expect,
  expectAccessible,
  finished,
  lessonOf,
  recordFor,
} from './support/studio';
import { AT_LENGTH, test } from './support/test';

test('sound only records sound only, and no page shows a picture', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await armed(page, { ...PRACTICE_RIG, countdownS: 0 });
  const lesson = lessonOf(page);
  await page.getByRole('link', { name: 'Set up' }).first().click();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  await choose(page, 'Source', 'No picture, sound only');
  await expect(page.getByText('Sound only: there is no picture.').first()).toBeVisible();
  await expect(page.getByRole('img', { name: /^Live/ })).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Ready to record.');
  await expect(page.getByRole('tab', { name: /^Camera/ })).toContainText('none');
  for (const name of ['Camera', 'Encode', 'Capture area']) {
    await page.getByRole('tab', { name: new RegExp(`^${name}`) }).click({ position: { x: 24, y: 11 } });
    await expect(page.getByRole('tabpanel', { name })).toContainText('Sound only');
  }
  await expectAccessible(page);
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  const { folder } = await recordFor(page, 1000, async () => {
    // What is said of a take without a picture while it is recorded: that it is, and how loud it is.
    await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Recording.');
    const figures = page.getByRole('complementary', { name: 'Figures' });
    await expect(figures).toContainText(/Loudness, last 3 s\s*−\d+\.\d LUFS/);
    await expect(figures).toContainText('Not yet on the server');
  });
  await finished(page);
  const [row] = await rows<{ rig: { camera: unknown } }>('select rig from lesson where id = $1', [lesson]);
  expect(row?.rig.camera).toBeNull();
  const kinds = JSON.parse(
    await text('ffprobe', [
      ...['-v', 'error', '-show_entries', 'stream=codec_type', '-of', 'json'],
      join(folder, 'recorded.mkv'),
    ]),
  ).streams.map(({ codec_type }: { codec_type: string }) => codec_type);
  expect(kinds).toEqual(['audio', 'audio']);
  // The take's page has a player without a picture, and speaks of no frames.
  await expect(page.locator('.player canvas:visible')).toHaveCount(0);
  await expect(page.getByRole('link', { name: /^Plain sound/ })).toBeVisible();
  await expect(page.getByText(/frame rate|Dropped by the encoder/i)).toHaveCount(0);
  await expectAccessible(page);
  // Edit speaks of no picture either, and plays.
  await page.goto(`/lessons/${lesson}/edit`);
  await expect(page.locator('.player[data-loaded=true]')).toBeVisible();
  await expect(page.getByText('Sound only: there is no picture.')).toBeVisible();
  await expect(page.locator('.player canvas:visible')).toHaveCount(0);
  await expect(page.getByRole('radio')).toHaveCount(0);
  await page.keyboard.press('l');
  await expect
    .poll(async () => Number(await page.locator('.player').getAttribute('data-position')))
    .toBeGreaterThan(500_000);
  await expectAccessible(page);
});

test('a microphone of two channels is recorded in two, each with its own tone', { tag: AT_LENGTH }, async ({
  profile,
}) => {
  // Oscillators play for somebody who has clicked, which nobody has here.
  const context = await launch(profile, { args: ['--autoplay-policy=no-user-gesture-required'] });
  const page = context.pages()[0] ?? (await context.newPage());
  await page.addInitScript(() => {
    navigator.mediaDevices.getUserMedia = async () => {
      const context = new AudioContext({ sampleRate: 48_000 });
      const [both, out] = [
        new ChannelMergerNode(context, { numberOfInputs: 2 }),
        context.createMediaStreamDestination(),
      ];
      for (const [channel, frequency] of [440, 1000].entries()) {
        const tone = new OscillatorNode(context, { frequency });
        tone.connect(new GainNode(context, { gain: 0.3 })).connect(both, 0, channel);
        tone.start();
      }
      both.connect(out);
      await context.resume();
      return out.stream;
    };
  });
  const { voice } = CARD_RIG;
  if (!voice) throw new Error('The rig has a voice.');
  await armed(page, {
    ...CARD_RIG,
    picture: { ...CARD_RIG.picture, source: { from: 'none' } },
    camera: null,
    appSound: null,
    voice: { ...voice, channels: 2, source: { from: 'device', id: 'stereo', label: 'Stereo microphone' } },
  });
  const { folder } = await recordFor(page, 3000);
  await finished(page);
  const heard = async (channel: number) => {
    const samples = await samplesOf(join(folder, 'recorded.mkv'), 'a:0', channel);
    // From the second second on, where nothing begins any more.
    const part = samples.subarray(48_000, 96_000);
    let rises = 0;
    for (let i = 1; i < part.length; i++) if ((part[i - 1] ?? 0) < 0 && (part[i] ?? 0) >= 0) rises++;
    return rises;
  };
  // A tone of 440 Hz rises through zero 440 times in one second. The oscillators of a page that waits for a processor stutter, which is no fault
  // of the recording; mixed or exchanged channels would be farther off by far.
  expect(Math.abs((await heard(0)) - 440)).toBeLessThanOrEqual(40);
  expect(Math.abs((await heard(1)) - 1000)).toBeLessThanOrEqual(40);
  await context.close();
});
