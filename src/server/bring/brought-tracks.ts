import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { ProblemError } from '@/core/base/problem';
import { type FrameRate, framesPerSecond, reduced } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import { codecString } from '@/core/codec/codec-string';
import { BT709_ARGS } from '@/core/commands/encoder-args';
import { GROUND } from '@/core/layout/layout';
import type { FileKind } from '@/core/recording/brought-in';
import type { SegmentHead } from '@/core/recording/take';
import { ffmpeg } from '../media/ffmpeg';
import { measureFile } from '../media/measure';
import { renderPdf, renderSvg } from '../media/render-pages';

/** A track that was made of a file, in the form that a recorder gives. */
export type BroughtTrack = { path: string; head: Pick<SegmentHead, 'track' | 'configuration'> };
export type Brought = {
  tracks: BroughtTrack[];
  durationUs: number;
  rate: FrameRate | null;
  /** Of slides; null for video and sound. */
  pages: number | null;
};

/** Longer is no lesson. */
const MOST_S = 6 * 3600;
/** Larger pictures are made smaller: nobody decodes them in a browser. */
const MOST_SIDE = 3840;
/** Finer than it will be delivered: it is encoded once more then. */
const CRF = 14;

/** All pictures of slides lie a second apart. */
export const PAGE_US = 1_000_000;

/**
 * Slides as a film of 1 fps, each centred in a picture of the same size: any of them can be held for any length.
 * @param size of the lesson's pictures
 * @param onShare how much of it is made, 0…1
 */
export async function slideTracks(
  kind: Exclude<FileKind, 'media'>,
  path: string,
  folder: string,
  size: Size,
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<Brought> {
  await mkdir(folder, { recursive: true });
  const pages =
    kind === 'pdf'
      ? await renderPdf(path, folder, Math.max(size.width, size.height), signal)
      : [kind === 'svg' ? await renderSvg(path, folder, size.width, signal) : path];
  const box = `${size.width}:${size.height}`;
  const fitted = `scale=w='min(iw,${size.width})':h='min(ih,${size.height})':force_original_aspect_ratio=decrease:flags=lanczos`;
  const onGround = `format=rgba,${fitted},pad=${box}:(ow-iw)/2:(oh-ih)/2:color=${GROUND.replace('#', '0x')}`;
  for (const [i, page] of pages.entries()) {
    onShare(i / (pages.length + 1));
    await readable('picture', signal, () =>
      ffmpeg(['-i', page, '-frames:v', '1', '-vf', flattened(onGround), join(folder, `slide-${i}.png`)], {
        signal,
      }),
    );
  }
  const film = join(folder, 'screen.mkv');
  await ffmpeg(
    [
      ...[
        '-framerate',
        '1',
        '-i',
        join(folder, 'slide-%d.png'),
        '-vf',
        'scale=out_color_matrix=bt709:out_range=tv',
      ],
      ...[
        '-c:v',
        'libx264',
        '-preset',
        'veryfast',
        '-crf',
        '8',
        '-g',
        '1',
        '-bf',
        '0',
        '-pix_fmt',
        'yuv420p',
      ],
      ...[...BT709_ARGS, '-f', 'matroska', film],
    ],
    { signal },
  );
  const rate = { num: 30, den: 1 };
  return {
    tracks: [{ path: film, head: screenHead(size, rate) }],
    ...{ durationUs: pages.length * PAGE_US, rate, pages: pages.length },
  };
}

/** What is transparent in a picture lies on white, as on paper. */
const flattened = (then: string): string =>
  `format=rgba,split[a][b];[a]lutrgb=r=255:g=255:b=255:a=255[white];[white][b]overlay=format=rgb,${then}`;

/**
 * A video or a sound: its first picture and its first sound, in codecs that every browser plays.
 * @param onShare how much of it is made, 0…1
 */
export async function mediaTracks(
  path: string,
  folder: string,
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<Brought> {
  const { video, sound, durationUs } = await measureFile(path, { withLoudness: false, signal });
  if (!video && !sound)
    throw new ProblemError({
      code: 'bad-media',
      message: 'There is no picture and no sound in this file.',
      hint: 'Choose a video, a sound, a picture or a PDF.',
    });
  if (durationUs > MOST_S * 1e6 || durationUs <= 0)
    throw new ProblemError({
      code: 'bad-media',
      ...(durationUs > 0
        ? { message: 'This file is longer than six hours.', hint: 'Cut it into parts.' }
        : { message: 'This file has no duration.', hint: 'Check that all of it was copied.' }),
    });
  await mkdir(folder, { recursive: true });
  const film = join(folder, 'screen.mkv');
  const voice = join(folder, 'voice.mkv');
  const even = (side: 'iw' | 'ih') => `trunc(${side}/2)*2`;
  const square = `scale='trunc(iw*if(gt(sar,0),sar,1)/2)*2':'${even('ih')}',setsar=1`;
  const within = `scale=w='min(iw,${MOST_SIDE})':h='min(ih,${MOST_SIDE})':force_original_aspect_ratio=decrease:force_divisible_by=2`;
  const colours = 'scale=out_color_matrix=bt709:out_range=tv';
  await readable('file', signal, () =>
    ffmpeg(
      [
        ...['-i', path, '-map_metadata', '-1', '-sn', '-dn'],
        ...(video
          ? [
              ...['-map', '0:v:0', '-vf', `${square},${within},${colours}`, '-fps_mode', 'vfr'],
              ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', String(CRF), '-bf', '0', '-g', '60'],
              ...['-pix_fmt', 'yuv420p', ...BT709_ARGS, '-f', 'matroska', film],
            ]
          : []),
        ...(sound
          ? [
              '-map',
              '0:a:0',
              '-c:a',
              'flac',
              '-sample_fmt',
              's16',
              '-ar',
              '48000',
              '-ac',
              String(Math.min(2, sound.channels)),
            ]
          : []),
        ...(sound ? ['-f', 'matroska', voice] : []),
      ],
      { durationUs, onProgress: onShare, signal },
    ),
  );
  const made = video ? await measureFile(film, { withLoudness: false, signal }) : null;
  const size = made?.video && { width: made.video.width, height: made.video.height };
  const rate = video ? sensibleRate(video.rate) : null;
  return {
    tracks: [
      ...(size && rate ? [{ path: film, head: screenHead(size, rate) }] : []),
      ...(sound ? [{ path: voice, head: voiceHead(Math.min(2, sound.channels)) }] : []),
    ],
    ...{ durationUs, rate, pages: null },
  };
}

/** Files that say nothing sensible of their rate are shown at 30. */
const sensibleRate = (rate: FrameRate): FrameRate => {
  const fps = framesPerSecond(rate);
  return fps >= 1 && fps <= 120 ? reduced(rate) : { num: 30, den: 1 };
};

const screenHead = ({ width, height }: Size, rate: FrameRate): BroughtTrack['head'] => ({
  track: 'screen',
  configuration: {
    ...{
      type: 'video',
      codec: codecString('h264', { size: { width, height }, rate, bitrateKbps: 8000, profile: 'high' }),
    },
    ...{ width, height, bitrateKbps: 8000, textHint: false, sourceWidth: width, sourceHeight: height },
  },
});

const voiceHead = (channels: number): BroughtTrack['head'] => ({
  track: 'voice',
  configuration: { type: 'audio', codec: 'flac', sampleRate: 48_000, channels, bitrateKbps: 700 },
});

/** What ffmpeg cannot read is the file's fault, and said so. */
async function readable(what: string, signal: AbortSignal, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    signal.throwIfAborted();
    throw new ProblemError(
      {
        code: 'bad-media',
        message: `This ${what} is damaged, or in a format that cannot be read.`,
        hint: 'Check that all of it was copied, or save it in another format.',
      },
      { cause: error },
    );
  }
}
