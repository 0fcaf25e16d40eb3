import { beforeEach, expect, test, vi } from 'vitest';
import type { EncoderSpeed } from '@/core/encoding/encoder-speed';
import { measuredSpeeds, rememberLoss, rememberSpeeds } from './headroom';

const SIZE = { width: 1920, height: 1080 };
const OTHER = { width: 1280, height: 720 };
const speed = (codec: EncoderSpeed['codec'], textHint: boolean, framesPerSecond: number): EncoderSpeed => ({
  ...{ codec, textHint, framesPerSecond, kbps: 3000, hardware: false, quantizer: true },
  constantOverAverage: 1.4,
});

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  });
  vi.stubGlobal('navigator', { userAgent: 'test', hardwareConcurrency: 2 });
});

test('a take with losses corrects what is expected of its encoder, until it is measured again', () => {
  const speeds = [speed('h264', false, 75), speed('h264', true, 40), speed('vp9', false, 90)];
  rememberSpeeds(SIZE, speeds);
  rememberSpeeds(OTHER, speeds);
  // 24 of 119 frames at 60 fps.
  rememberLoss('h264', false, SIZE, { askedFps: 60, arrived: 119, dropped: 24 });
  const held = () => measuredSpeeds(SIZE).map(({ framesPerSecond }) => Math.round(framesPerSecond));
  expect(held()).toEqual([48, 40, 90]);
  expect(measuredSpeeds(OTHER)).toEqual(speeds);
  // One that was slower before stays so.
  rememberLoss('h264', true, SIZE, { askedFps: 60, arrived: 600, dropped: 60 });
  expect(held()).toEqual([48, 40, 90]);
  rememberSpeeds(SIZE, speeds);
  expect(measuredSpeeds(SIZE)).toEqual(speeds);
});

test('a few frames say more about the moment than about the machine', () => {
  rememberSpeeds(SIZE, [speed('h264', false, 75)]);
  rememberLoss('h264', false, SIZE, { askedFps: 60, arrived: 30, dropped: 15 });
  expect(measuredSpeeds(SIZE)[0]?.framesPerSecond).toBe(75);
});
