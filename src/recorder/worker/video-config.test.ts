import { afterEach, describe, expect, it, vi } from 'vitest';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { attachSettings } from '../attach-settings';
import type { VideoSettings } from '../messages';
import { chooseVideo } from './video-config';

const SOURCE = { width: 1280, height: 720 };

afterEach(() => {
  vi.unstubAllGlobals();
});

/** What is chosen where a browser supports what a test says. */
function chosenWhere(
  supports: (config: VideoEncoderConfig) => boolean,
  changed: Partial<VideoSettings> = {},
) {
  const settings = attachSettings('screen', PRACTICE_RIG, {});
  if (!('video' in settings)) throw new Error('A screen has a picture.');
  const isConfigSupported = async (config: VideoEncoderConfig) => ({ config, supported: supports(config) });
  vi.stubGlobal('VideoEncoder', { isConfigSupported });
  return chooseVideo('screen', SOURCE, { ...settings.video, codec: 'h264', ...changed });
}

const isHardware = ({ hardwareAcceleration }: VideoEncoderConfig) =>
  hardwareAcceleration === 'prefer-hardware';

describe('H.264 is encoded in two temporal layers', () => {
  it.each([
    ['by software that knows them', (config: VideoEncoderConfig) => !isHardware(config), 'L1T2'],
    ['by hardware that knows them', () => true, 'L1T2'],
    [
      'not where nothing knows them',
      ({ scalabilityMode }: VideoEncoderConfig) => !scalabilityMode,
      undefined,
    ],
    [
      'not where only the software knows them, and there is hardware',
      (config: VideoEncoderConfig) => !(isHardware(config) && config.scalabilityMode),
      undefined,
    ],
  ] as const)('%s', async (_, supports, wanted) => {
    expect((await chosenWhere(supports)).encoder.scalabilityMode).toBe(wanted);
  });

  it('by the software that the rig asks for, whatever the hardware knows', async () => {
    const { encoder } = await chosenWhere((config) => !(isHardware(config) && config.scalabilityMode), {
      hardware: 'prefer-software',
    });
    expect(encoder).toMatchObject({ scalabilityMode: 'L1T2', hardwareAcceleration: 'prefer-software' });
  });
});

it('other codecs are encoded in one layer', async () => {
  for (const codec of ['vp9', 'av1'] as const)
    expect((await chosenWhere(() => true, { codec })).encoder.scalabilityMode).toBeUndefined();
});

it('what this browser cannot encode is refused with a reason', async () => {
  await expect(chosenWhere(() => false)).rejects.toMatchObject({
    problem: { code: 'no-encoder', field: 'picture.codec' },
  });
});
