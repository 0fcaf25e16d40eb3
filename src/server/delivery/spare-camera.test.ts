import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pictureEncoderArgs } from '@/core/commands/encoder-args';
import { sparingFilter } from '@/core/commands/spare-camera';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { decode, ffmpeg } from '../media/ffmpeg';

const RATE = { num: 30, den: 1 };
const SIZE = { width: 640, height: 360 };
const CAMERA = { x: 416, y: 224, width: 200, height: 112 };
const attachment = DESTINATIONS.find(({ id }) => id === 'message-attachment') as Destination;
const signal = new AbortController().signal;

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'otter-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Two seconds of text with a noisy camera in the corner, at a quantizer that encodes its noise. */
async function encoded(spares: boolean): Promise<{ bytes: number; text: Uint8Array }> {
  const { x, y, width, height } = CAMERA;
  const text = "drawtext=font=Sans:text='Runner bean, Painted Lark':fontsize=20:fontcolor=black:x=24:y=40";
  const scene = [
    `color=white:s=640x360:r=30:d=2,${text}[screen]`,
    `color=0x806040:s=${width}x${height}:r=30:d=2,noise=alls=12:allf=t:all_seed=7[camera]`,
    `[screen][camera]overlay=${x}:${y}`,
  ].join(';');
  const path = join(folder, `${spares}.mkv`);
  const sparing = spares ? ['-vf', sparingFilter(CAMERA)] : [];
  const args = pictureEncoderArgs(attachment, RATE, 24, SIZE, spares);
  await ffmpeg(['-f', 'lavfi', '-i', scene, ...sparing, ...args, path], { signal });
  const chunks: Buffer[] = [];
  const cropped = ['-vf', 'crop=400:80:0:20', '-pix_fmt', 'gray', '-f', 'rawvideo'];
  await decode(['-i', path, ...cropped], (data) => void chunks.push(data), signal);
  return { bytes: (await stat(path)).size, text: new Uint8Array(Buffer.concat(chunks)) };
}

it('takes a fraction of the bytes for a noisy camera, and leaves the text as it is without', async () => {
  const [whole, spared] = [await encoded(false), await encoded(true)];
  expect(spared.bytes / whole.bytes).toBeLessThan(0.5);
  expect(spared.text.length).toBe(whole.text.length);
  const apart = spared.text.reduce((sum, value, i) => sum + Math.abs(value - (whole.text[i] ?? 0)), 0);
  expect(apart / spared.text.length).toBeLessThan(0.5);
});
