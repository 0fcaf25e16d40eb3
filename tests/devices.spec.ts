import { choose, expect, finished, recordFor, stretch } from './support/studio';
import { test } from './support/test';

const REFUSALS = [
  ['NotAllowedError', 'The browser was not allowed to share it.'],
  ['NotFoundError', 'There is no such device.'],
  ['NotReadableError', 'The device is in use by another program.'],
] as const;

test('a camera that is refused, missing or busy says so and what to do, and recording stays possible', async ({
  studio: page,
}) => {
  await page.addInitScript(() => {
    const device = { deviceId: 'cam', kind: 'videoinput', label: 'Desk camera', groupId: '' };
    navigator.mediaDevices.enumerateDevices = async () =>
      [{ ...device, toJSON: () => device }] as MediaDeviceInfo[];
    navigator.mediaDevices.getUserMedia = async () => {
      throw new DOMException('', sessionStorage.getItem('refusal') ?? 'AbortError');
    };
  });
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  await stretch(page, 'Camera');
  const verdict = page.getByRole('region', { name: 'Verdict' });
  for (const [name, sentence] of REFUSALS) {
    await page.evaluate((refusal) => sessionStorage.setItem('refusal', refusal), name);
    await choose(page, 'Device', 'Desk camera');
    await expect(page.getByText(`Camera: ${sentence}`)).toBeVisible();
    await expect(verdict.getByRole('link', { name: 'Record' })).toBeVisible();
    await choose(page, 'Device', 'Practice presenter');
    await expect(page.getByText(`Camera: ${sentence}`)).toBeHidden();
  }
});

test('a browser that lacks a part of recording says which, and plays the plain video where it cannot decode tracks', async ({
  studio: page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await stretch(page, 'File');
  await page.getByText('Off', { exact: true }).click();
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'No camera');
  await page.getByRole('region', { name: 'Verdict' }).getByRole('link', { name: 'Record' }).click();
  await recordFor(page, 1500);
  await finished(page);
  await page.addInitScript(() => {
    for (const part of ['VideoEncoder', 'VideoDecoder']) Reflect.deleteProperty(globalThis, part);
  });
  await page.reload();
  const video = page.locator('video.screen');
  await expect(video).toBeVisible();
  await expect
    .poll(() => video.evaluate((v: HTMLVideoElement) => v.duration), { timeout: 10_000 })
    .toBeGreaterThan(1);
  await page.getByRole('link', { name: 'Record another' }).click();
  await expect(page.getByText('This browser lacks video encoding (VideoEncoder).')).toBeVisible();
});
