// The file obeys the rig: what was chosen is what lies on the disk.
import { join } from 'node:path';
import type { Rig } from '@/core/rig/rig';
import { samplesOf, text, videoTimes } from './support/card-film';
import { rows } from './support/processes';
import { CARD_RIG, expect, recordEach } from './support/studio';
import { test } from './support/test';

type Expected = {
  codec: string | null;
  size?: [number, number];
  /** As ffprobe names them. */
  profile?: string;
  level?: number;
  fps?: number;
  /** Pictures from one keyframe to the next. */
  group?: number;
  sounds: [codec: string, channels: number, rate: number][];
  /** Seconds of film, when it is not as long as the work. */
  filmS?: number;
};
type Choices = Omit<Partial<Rig>, 'picture'> & { picture: Partial<Rig['picture']> };

const OPUS: Expected['sounds'] = [
  ['opus', 1, 48_000],
  ['opus', 1, 48_000],
];
const PCM: Expected['sounds'] = [
  ['pcm_s16le', 1, 48_000],
  ['pcm_s16le', 1, 48_000],
];
const fps = (num: number, den = 1) => ({ num, den });
const WORK_S = 3;

const RIGS: Record<string, [Choices, Expected]> = {
  'H.264 Constrained Baseline at level 3.1, 15 a second, a keyframe a second': [
    {
      picture: {
        codec: 'h264',
        profile: 'constrained-baseline',
        level: '3.1',
        box: { width: 640, height: 360 },
        frameRate: fps(15),
        keyframeEvery: { unit: 'seconds', value: 1 },
      },
      camera: null,
    },
    {
      codec: 'h264',
      size: [640, 360],
      profile: 'Constrained Baseline',
      level: 31,
      fps: 15,
      group: 15,
      sounds: OPUS,
    },
  ],
  'H.264 Main at 24000/1001, a keyframe every 40 frames': [
    {
      picture: {
        codec: 'h264',
        profile: 'main',
        box: { width: 854, height: 480 },
        frameRate: fps(24_000, 1001),
        keyframeEvery: { unit: 'frames', value: 40 },
      },
      camera: null,
    },
    { codec: 'h264', size: [854, 480], profile: 'Main', fps: 24_000 / 1001, group: 40, sounds: OPUS },
  ],
  'one to one with the text hint, 10 a second, High': [
    { picture: { box: null, frameRate: fps(10), textHint: 'on' }, camera: null },
    { codec: 'h264', size: [1920, 1080], profile: 'High', fps: 10, group: 20, sounds: OPUS },
  ],
  'VP9 at constant quality, 12.5 a second': [
    {
      picture: {
        codec: 'vp9',
        rateControl: 'quantizer',
        quantizer: 40,
        box: { width: 640, height: 360 },
        frameRate: fps(25, 2),
        keyframeEvery: { unit: 'frames', value: 25 },
      },
      camera: null,
    },
    { codec: 'vp9', size: [640, 360], profile: 'Profile 0', fps: 12.5, group: 25, sounds: OPUS },
  ],
  'AV1 with PCM, 10 a second': [
    {
      picture: { codec: 'av1', box: { width: 640, height: 360 }, frameRate: fps(10) },
      camera: null,
      sound: { codec: 'pcm', sampleRate: null, voiceKbps: 64, appKbps: 96 },
    },
    { codec: 'av1', size: [640, 360], profile: 'Main', fps: 10, group: 20, sounds: PCM },
  ],
  'a time-lapse in which a second of work becomes a quarter of film': [
    { picture: { speed: { num: 1, den: 4 }, frameRate: fps(30) }, camera: null },
    { codec: 'h264', size: [640, 360], fps: 30, sounds: [], filmS: WORK_S / 4 },
  ],
  'sound only': [
    { picture: { source: { from: 'none' } }, camera: null },
    { codec: null, sounds: OPUS },
  ],
};

const PATTERN = '{take} of {lesson} {size}';

test('the file obeys its rig, whatever was chosen', async ({ studio: page }) => {
  test.setTimeout(300_000);
  const rigs = Object.values(RIGS).map(([choices]) => ({
    ...CARD_RIG,
    ...choices,
    names: { pattern: PATTERN },
    picture: { ...CARD_RIG.picture, ...choices.picture },
  }));
  const takes = await recordEach(page, rigs, WORK_S * 1000);
  for (const [i, [name, [, expected]]] of Object.entries(RIGS).entries())
    await test.step(name, async () => {
      const { takeId, folder } = takes[i] ?? { takeId: '', folder: '' };
      await page.goto(`/takes/${takeId}`);
      const link = page.getByRole('link', { name: expected.codec ? /^Plain video/ : /^Plain sound/ });
      await expect(link).toBeVisible();
      const file = join(folder, 'recorded.mkv');
      const entries = 'stream=codec_type,codec_name,profile,level,width,height,channels,sample_rate';
      const { streams } = JSON.parse(
        await text('ffprobe', ['-v', 'error', '-show_entries', entries, '-of', 'json', file]),
      );
      const sounds = streams.filter(({ codec_type }: { codec_type: string }) => codec_type === 'audio');
      expect(
        sounds.map((each: { codec_name: string; channels: number; sample_rate: string }) => [
          each.codec_name,
          each.channels,
          Number(each.sample_rate),
        ]),
      ).toEqual(expected.sounds);
      const [picture] = streams.filter(({ codec_type }: { codec_type: string }) => codec_type === 'video');
      expect(picture?.codec_name ?? null).toBe(expected.codec);
      if (expected.size) expect([picture.width, picture.height]).toEqual(expected.size);
      if (expected.profile) expect(picture.profile).toBe(expected.profile);
      if (expected.level) expect(picture.level).toBe(expected.level);
      if (expected.fps) {
        const times = await videoTimes(file);
        const spanS = ((times.at(-1) ?? 0) - (times[0] ?? 0)) / 1e6;
        const [take] = await rows<{
          ledger: { screen: { dropped: number; lostBefore: number } };
          duration_us: string;
        }>('select ledger, duration_us from take where id = $1', [takeId]);
        const { dropped = 0, lostBefore = 0 } = take?.ledger.screen ?? {};
        // Never more than asked: a picture may be half an interval early (core/recording/pacing.ts), and the last one is repeated at the
        // very end. What the machine did not manage was counted.
        expect(times.length - 1).toBeLessThanOrEqual(spanS * expected.fps + 1.5);
        const made = (times.length - 1) / spanS / expected.fps;
        expect(made).toBeGreaterThan(0.8);
        expect(made + (dropped + lostBefore) / spanS / expected.fps).toBeGreaterThan(0.95);
        // The film ends with the take, which is as long as the work, or as much shorter as was asked.
        const [lastS, lengthS] = [(times.at(-1) ?? 0) / 1e6, Number(take?.duration_us) / 1e6];
        expect(Math.abs(lastS - lengthS)).toBeLessThan(0.3);
        expect(lastS).toBeGreaterThan((expected.filmS ?? WORK_S) - 0.3);
        if (expected.filmS) expect(lastS).toBeLessThan(WORK_S / 2);
      }
      if (expected.group) {
        const flags = (
          await text('ffprobe', [
            '-v',
            'error',
            '-select_streams',
            'v:0',
            '-show_entries',
            'packet=flags',
            '-of',
            'csv=p=0',
            file,
          ])
        ).split('\n');
        const keys = flags.flatMap((flag, i) => (flag.startsWith('K') ? [i] : []));
        const groups = keys.slice(1).map((at, i) => at - (keys[i] ?? 0));
        expect(groups.length).toBeGreaterThan(0);
        // By time a group is as long as it is said; a lost picture may make it shorter, never longer.
        for (const group of groups) expect(Math.abs(group - expected.group)).toBeLessThanOrEqual(1);
      }
      if (!expected.codec) expect((await samplesOf(file)).length / 48_000).toBeGreaterThan(WORK_S - 0.3);
      const head = await page.request.head(new URL((await link.getAttribute('href')) ?? '', page.url()).href);
      const size = expected.size ? ` ${expected.size.join('×')}` : '';
      expect(decodeURIComponent(head.headers()['content-disposition'] ?? '')).toContain(
        `First take of Fault${expected.codec ? size || ' 640×360' : ''}.mp4`,
      );
      // Whatever it was recorded as, the plain video plays anywhere.
      const names = await text('ffprobe', [
        ...['-v', 'error', '-show_entries', 'stream=codec_name', '-of', 'csv=p=0'],
        join(folder, 'plain.mp4'),
      ]);
      expect(names.trim().split('\n')).toEqual([
        ...(expected.codec ? ['h264'] : []),
        ...(expected.sounds.length > 0 ? ['aac'] : []),
      ]);
    });
});
