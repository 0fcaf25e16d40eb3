import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { checkRules } from '@/core/destination/rules';
import { measureFile } from './measure';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-rules-'));
afterAll(() => rmSync(folder, { recursive: true }));

const host = DESTINATIONS.find(({ id }) => id === 'hd-video-host') as Destination;

type Film = {
  picture?: string;
  size?: string;
  sound?: string;
  video?: string;
  audio?: string;
  muxer?: string;
  name?: string;
};

/** A film that meets every rule of the HD video host, but for what is given. Sound at −14 LUFS: a tone at its level. */
async function film({
  picture = '',
  size = '640x360',
  sound = 'sine=f=997:r=48000:d=3,volume=4.62dB,pan=stereo|c0=c0|c1=c0',
  video = '-c:v libx264 -preset superfast -profile:v main -pix_fmt yuv420p -g 50',
  audio = '-c:a aac -b:a 192k',
  muxer = '-movflags +faststart',
  name = 'film.mp4',
}: Film): Promise<string> {
  const path = join(folder, name);
  const source = `testsrc2=s=${size}:r=25:d=3${picture}`;
  const args = ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, '-f', 'lavfi', '-i', sound];
  await run('ffmpeg', [...args, ...`${video} ${audio} ${muxer}`.split(' ').filter(Boolean), path]);
  return path;
}

const MAIN = '-c:v libx264 -preset superfast -profile:v main -pix_fmt yuv420p';
const BROKEN: [what: string, made: Film, rules: string[]][] = [
  ['nothing at all', {}, []],
  ['another codec', { video: '-c:v mpeg4 -g 50' }, ['video-codec']],
  ['a profile that is too simple', { video: `${MAIN.replace('main', 'baseline')} -g 50` }, ['profile']],
  ['a level that is too high', { video: `${MAIN} -g 50 -level 5.1` }, ['level']],
  ['too many pixels', { size: '2048x1152', video: `${MAIN} -g 50 -level 4.2` }, ['size']],
  ['another shape', { size: '640x480' }, ['shape']],
  [
    'an uneven frame rate',
    { picture: ",select='not(eq(mod(n\\,7)\\,3))'", video: `${MAIN} -g 40 -fps_mode vfr` },
    ['constant-rate'],
  ],
  ['keyframes too far apart', { video: `${MAIN} -g 250 -x264-params scenecut=0` }, ['keyframes']],
  [
    'all of the colour',
    { video: '-c:v libx264 -preset superfast -pix_fmt yuv444p -g 50' },
    ['profile', 'pixel-format'],
  ],
  ['stretched pixels', { picture: ',setsar=4/3' }, ['square-pixels']],
  [
    'interlaced pictures',
    { video: `${MAIN.replace('superfast', 'faster')} -g 50 -flags +ilme+ildct -x264-params tff=1` },
    ['progressive'],
  ],
  ['sound of another codec', { audio: '-c:a libopus -b:a 96k -strict -2' }, ['sound-codec']],
  [
    'six channels',
    { sound: 'sine=f=997:r=48000:d=3,volume=4.62dB,pan=5.1|FL=c0|FR=c0', audio: '-c:a aac -b:a 384k' },
    ['channels'],
  ],
  ['a lower sample rate', { audio: '-c:a aac -b:a 192k -ar 44100' }, ['sample-rate']],
  [
    'a voice that is too quiet',
    { sound: 'sine=f=997:r=48000:d=3,volume=-2dB,pan=stereo|c0=c0|c1=c0' },
    ['loudness'],
  ],
  [
    'peaks that clip',
    {
      sound:
        "aevalsrc='0.05*sin(2*PI*997*t)+0.97*lt(mod(t\\,0.5)\\,0.012)*sin(2*PI*300*t)':s=48000:d=3,pan=stereo|c0=c0|c1=c0",
    },
    ['loudness', 'true-peak'],
  ],
  ['the index behind the data', { muxer: '' }, ['fast-start']],
  ['another container', { name: 'film.mkv', muxer: '' }, ['container', 'fast-start']],
  ['too many frames a second', { picture: ',fps=100', video: `${MAIN} -g 200` }, ['frame-rate']],
  ['two pictures', { video: `-map 0 -map 0 -map 1 ${MAIN} -g 50` }, ['one-picture']],
  ['two sounds', { audio: '-map 0 -map 1 -map 1 -c:a aac -b:a 192k' }, ['one-sound']],
];

it.each(BROKEN)('a file with %s is found out for just that', async (_, made, rules) => {
  const measured = await measureFile(await film(made));
  const results = checkRules(host, measured);
  expect(results.filter(({ met }) => !met).map(({ rule }) => rule)).toEqual(rules);
  for (const { met, remedy } of results) if (!met) expect(remedy).not.toBe('');
});

it('a file that is too large, or too long, is found out', async () => {
  const measured = await measureFile(await film({}));
  const small: Destination = { ...host, maxBytes: 10_000, maxDurationS: 2 };
  const broken = checkRules(small, measured).filter(({ met }) => !met);
  expect(broken.map(({ rule }) => rule)).toEqual(['bytes', 'length']);
});

it('a programme of a transport stream has the streams that it has, and each once', async () => {
  const sounds = '-map 0 -map 1 -map 1 -c:a aac -b:a 192k';
  const { video, sound, videoStreams, soundStreams } = await measureFile(
    await film({ audio: sounds, name: 'film.ts', muxer: '' }),
  );
  expect([videoStreams, soundStreams, video?.frames, sound?.codec]).toEqual([1, 2, 75, 'aac']);
});

it('what is no media file is said to be none', async () => {
  await expect(measureFile(new URL(import.meta.url).pathname)).rejects.toThrow(
    /cannot be read as video or sound/,
  );
});
