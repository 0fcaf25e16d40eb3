import { choose, expect, finished, recordFor, stretch } from './support/studio';
import { AT_LENGTH, test } from './support/test';

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

test('a browser that lacks a part of recording says which, and plays the plain video where it cannot decode tracks', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
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

test('a microphone and a display that are refused say so where they were asked for, and the other sources stay open', {
  tag: AT_LENGTH,
}, async ({ studio: page }) => {
  await page.addInitScript(() => {
    const device = { deviceId: 'mic', kind: 'audioinput', label: 'Desk microphone', groupId: '' };
    navigator.mediaDevices.enumerateDevices = async () =>
      [{ ...device, toJSON: () => device }] as MediaDeviceInfo[];
    const refuse = async () => {
      throw new DOMException('', 'NotAllowedError');
    };
    Object.assign(navigator.mediaDevices, { getUserMedia: refuse, getDisplayMedia: refuse });
  });
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  await expect(page.getByRole('img', { name: 'Live picture' })).toBeVisible();
  await stretch(page, 'Voice');
  await choose(page, 'Voice', 'Desk microphone');
  await expect(page.getByText('Voice: The browser was not allowed to share it.')).toBeVisible();
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await expect(verdict.getByRole('link', { name: 'Record' })).toBeVisible();
  await choose(page, 'Voice', 'Practice voice');
  await expect(page.getByText('Voice: The browser was not allowed to share it.')).toBeHidden();
  await stretch(page, 'Source');
  await choose(page, 'Source', 'Window');
  await page.getByRole('button', { name: 'Share now' }).click();
  await expect(page.getByText('Screen: The browser was not allowed to share it.')).toBeVisible();
  // Without a picture nothing is recorded by accident.
  await expect(verdict.getByRole('link', { name: 'Record' })).toBeHidden();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
});

test('a page that is not secure says why it gets no device, and what to do', async ({ studio: page }) => {
  await page.addInitScript(() => Object.defineProperty(globalThis, 'isSecureContext', { value: false }));
  await page.goto('/');
  await page.getByRole('button', { name: 'New lesson' }).click();
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await expect(verdict).toContainText('A browser gives screen, camera and microphone only to a secure page.');
  await expect(verdict).toContainText('Open the studio at http://localhost or by https.');
});

test('a camera that is plugged in later is opened automatically', async ({ studio: page }) => {
  await page.addInitScript(() => {
    const isThere = () => sessionStorage.getItem('plugged') === 'yes';
    const device = { deviceId: 'cam', kind: 'videoinput', label: 'Desk camera', groupId: '' };
    navigator.mediaDevices.enumerateDevices = async () =>
      (isThere() ? [{ ...device, toJSON: () => device }] : []) as MediaDeviceInfo[];
    navigator.mediaDevices.getUserMedia = async () => {
      if (!isThere()) throw new DOMException('', 'NotFoundError');
      const canvas = Object.assign(document.createElement('canvas'), { width: 640, height: 360 });
      const pen = canvas.getContext('2d');
      setInterval(() => pen?.fillRect(Math.random() * 640, Math.random() * 360, 9, 9), 33);
      return canvas.captureStream(30);
    };
  });
  const plug = (plugged: boolean) =>
    page.evaluate((there) => {
      sessionStorage.setItem('plugged', there ? 'yes' : 'no');
      navigator.mediaDevices.dispatchEvent(new Event('devicechange'));
    }, plugged);
  await page.goto('/');
  await plug(true);
  await page.getByRole('button', { name: 'New lesson' }).click();
  await stretch(page, 'Camera');
  await choose(page, 'Device', 'Desk camera');
  await expect(page.getByText(/^Camera: /)).toBeHidden();
  await plug(false);
  await page.reload();
  await expect(page.getByText('Camera: There is no such device.')).toBeVisible();
  await plug(true);
  await expect(page.getByText('Camera: There is no such device.')).toBeHidden();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
});
