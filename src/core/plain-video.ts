import { contain, placeCamera } from './layout';
import { type FrameRate, gridPhaseUs, rateText } from './rational';
import type { Rig } from './rig';
import type { Size } from './sizes';
import type { SegmentHead } from './take';

/** A segment's file, as an input of the filter graph. */
export type PlainInput = Pick<SegmentHead, 'track' | 'startUs' | 'encoderDelayUs' | 'configuration'> & {
  path: string;
  /** Take times of its packets. */
  timesUs: readonly number[];
};

export type PlainPlan = {
  /** ffmpeg's arguments up to the output file. */
  args: string[];
  pictureCopied: boolean;
  /** The mask that rounds the camera's corners, to be written as a PGM picture; null when there is no camera. */
  mask: { path: string; width: number; height: number; radius: number } | null;
};

const seconds = (us: number) => (us / 1e6).toFixed(6);
const isVideo = (input: PlainInput) => input.configuration.type === 'video';
const sizeOf = (input: PlainInput): Size =>
  input.configuration.type === 'video'
    ? { width: input.configuration.width, height: input.configuration.height }
    : { width: 0, height: 0 };

/**
 * How the plain video is made of a take's segments: camera over the screen, sounds mixed, MP4 with fast start. A picture
 * that needs nothing is copied, not encoded again.
 * @param maskPath where the caller will write the mask
 * @returns null when there is no picture
 */
export function planPlainVideo(
  inputs: readonly PlainInput[],
  rig: Rig,
  durationUs: number,
  maskPath: string,
): PlainPlan | null {
  const screens = inputs.filter((input) => input.track === 'screen' && isVideo(input));
  const cameras = rig.camera ? inputs.filter((input) => input.track === 'camera' && isVideo(input)) : [];
  const sounds = inputs.filter((input) => input.configuration.type === 'audio');
  const [first] = screens;
  if (!first) return null;
  const used = [...screens, ...cameras, ...sounds];
  const index = (input: PlainInput) => used.indexOf(input);
  const graph: string[] = [];
  const pictureCopied =
    cameras.length === 0 &&
    screens.length === 1 &&
    first.configuration.type === 'video' &&
    first.configuration.codec.startsWith('avc1');
  // A picture that is encoded again lies on an even grid of frames. Everything is moved by the recorded pictures' phase, so
  // that rounding to the grid does not move them against the sound.
  const phaseUs = pictureCopied ? 0 : gridPhaseUs(first.timesUs, rig.picture.frameRate);
  // The files' times are the take's times. Sound is moved forward by what its encoder put before the first sample.
  const files = used.flatMap((input) => [
    '-itsoffset',
    seconds(-phaseUs - input.encoderDelayUs),
    '-i',
    input.path,
  ]);
  let mask: PlainPlan['mask'] = null;
  if (!pictureCopied) {
    graph.push(...screenChain(screens, index, rig.picture.frameRate, durationUs));
    const [camera] = cameras;
    if (rig.camera && camera) {
      const { at, crop, radius } = placeCamera(sizeOf(first), sizeOf(camera), rig.camera.place);
      mask = { path: maskPath, width: at.width, height: at.height, radius };
      files.push('-loop', '1', '-framerate', '1', '-i', maskPath);
      graph.push(
        ...cameraChain(
          cameras,
          index,
          { at, crop, mirror: rig.camera.place.mirror },
          rig.picture.frameRate,
          used.length,
        ),
      );
    }
    graph.push(`[${cameras.length > 0 ? `over${cameras.length - 1}` : 'screen'}]format=yuv420p[picture]`);
  }
  graph.push(...soundChain(sounds, index, rig));
  const video = pictureCopied
    ? ['-map', `${index(first)}:v`, '-c:v', 'copy']
    : [
        '-map',
        '[picture]',
        ...H264_ARGS,
        '-g',
        String(Math.round((2 * rig.picture.frameRate.num) / rig.picture.frameRate.den)),
      ];
  const sound =
    sounds.length > 0 ? ['-map', '[mix]', '-c:a', 'aac', '-b:a', '160k', '-ar', '48000', '-ac', '2'] : [];
  return {
    args: [
      '-copyts',
      ...files,
      ...(graph.length > 0 ? ['-filter_complex', graph.join(';')] : []),
      ...video,
      ...sound,
      ...['-t', seconds(durationUs), '-movflags', '+faststart', '-avoid_negative_ts', 'disabled'],
    ],
    pictureCopied,
    mask,
  };
}

/** Made at once and played anywhere, so it must be quick: small files are the business of delivering. */
const H264_ARGS = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-profile:v', 'high'].concat(
  ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
);

/** The screen on an even grid of frames from 0 to the end. Further segments are laid over the first, whole and centred. */
function screenChain(
  screens: readonly PlainInput[],
  index: (input: PlainInput) => number,
  rate: FrameRate,
  durationUs: number,
): string[] {
  const [first] = screens;
  if (!first) return [];
  const size = sizeOf(first);
  const grid = `fps=${rate.num}/${rate.den}:start_time=0`;
  const hold = `tpad=stop_mode=clone:stop_duration=${seconds(durationUs)}`;
  const chain = [
    `[${index(first)}:v]${grid},${hold},trim=end=${seconds(durationUs)}[screen${screens.length > 1 ? '0' : ''}]`,
  ];
  screens.slice(1).forEach((screen, i) => {
    const place = contain(sizeOf(screen), size);
    const even = (v: number) => 2 * Math.round(v / 2);
    const next = screens[i + 2];
    const until = next ? next.startUs : durationUs;
    const fit = `scale=${even(place.width)}:${even(place.height)},pad=${size.width}:${size.height}:-1:-1,fps=${rate.num}/${rate.den}`;
    const out = i + 2 === screens.length ? 'screen' : `screen${i + 1}`;
    chain.push(`[${index(screen)}:v]${fit}[part${i}]`);
    const when = `enable='between(t,${seconds(screen.startUs)},${seconds(until)})'`;
    chain.push(`[screen${i}][part${i}]overlay=eof_action=repeat:${when}[${out}]`);
  });
  return chain;
}

type CameraLook = {
  at: { x: number; y: number; width: number; height: number };
  crop: { x: number; y: number; width: number; height: number };
  mirror: boolean;
};

/** Each camera segment over the picture while it lasts, its corners cut by the mask. */
function cameraChain(
  cameras: readonly PlainInput[],
  index: (input: PlainInput) => number,
  { at, crop, mirror }: CameraLook,
  rate: FrameRate,
  maskIndex: number,
): string[] {
  const masks = cameras.map((_, i) => `[mask${i}]`);
  const chain = [`[${maskIndex}:v]format=gray,split=${cameras.length}${masks.join('')}`];
  cameras.forEach((camera, i) => {
    const shape = `crop=${crop.width}:${crop.height}:${crop.x}:${crop.y},scale=${at.width}:${at.height}:flags=bicubic${mirror ? ',hflip' : ''}`;
    chain.push(`[${index(camera)}:v]fps=${rate.num}/${rate.den},${shape},format=yuva420p[cam${i}]`);
    chain.push(`[cam${i}]${masks[i]}alphamerge[round${i}]`);
    const under = i === 0 ? 'screen' : `over${i - 1}`;
    const when = `enable='between(t,${seconds(camera.startUs)},${seconds(camera.timesUs.at(-1) ?? camera.startUs)})'`;
    chain.push(`[${under}][round${i}]overlay=${at.x}:${at.y}:eof_action=pass:${when}[over${i}]`);
  });
  return chain;
}

/** All sounds from take time 0, app sound under the voice; the limiter only catches what would clip. */
function soundChain(sounds: readonly PlainInput[], index: (input: PlainInput) => number, rig: Rig): string[] {
  if (sounds.length === 0) return [];
  const chain = sounds.map((sound, i) => {
    const gainDb = sound.track === 'app-sound' ? (rig.appSound?.gainDb ?? 0) : 0;
    return `[${index(sound)}:a]aresample=48000:async=1:first_pts=0,volume=${gainDb}dB[sound${i}]`;
  });
  const all = sounds.map((_, i) => `[sound${i}]`).join('');
  chain.push(
    `${all}amix=inputs=${sounds.length}:duration=longest:normalize=0,alimiter=limit=0.94:level=disabled:latency=1[mix]`,
  );
  return chain;
}

/** In words, for the take's page. */
export const plainVideoSentence = (rig: Rig, pictureCopied: boolean): string =>
  pictureCopied
    ? 'The picture was copied as recorded.'
    : `Camera laid over the screen at ${rateText(rig.picture.frameRate)} frames a second.`;

/**
 * The mask of a rounded rectangle, one byte a pixel, edges smoothed over a pixel.
 * @param radius of the corners, in pixels; half the shorter side makes a circle
 */
export function roundedMask(width: number, height: number, radius: number): Uint8Array<ArrayBuffer> {
  const mask = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const dx = Math.max(radius - (x + 0.5), x + 0.5 - (width - radius), 0);
      const dy = Math.max(radius - (y + 0.5), y + 0.5 - (height - radius), 0);
      const inside = radius - Math.hypot(dx, dy) + 0.5;
      mask[y * width + x] = Math.round(255 * Math.max(0, Math.min(1, inside)));
    }
  return mask;
}
