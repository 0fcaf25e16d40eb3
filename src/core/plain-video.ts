import type { PlainInput } from './plain-input';
import { soundMix } from './plain-sound';
import { gridPhaseUs } from './rational';
import { type GraphFile, type PictureInput, pictureGraph } from './render/picture-graph';
import type { Rig } from './rig';
import type { Size } from './sizes';

export type PlainPlan = {
  /** ffmpeg's arguments up to the output file. */
  args: string[];
  pictureCopied: boolean;
  /** What the graph reads beside the segments. */
  files: GraphFile[];
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
 * @param filesPath what the names of the graph's small files begin with
 * @returns null when there is nothing to be seen or heard
 */
export function planPlainVideo(
  inputs: readonly PlainInput[],
  rig: Rig,
  durationUs: number,
  filesPath: string,
): PlainPlan | null {
  const { frameRate } = rig.picture;
  const screens = inputs.filter((input) => input.track === 'screen' && isVideo(input));
  const cameras = rig.camera ? inputs.filter((input) => input.track === 'camera' && isVideo(input)) : [];
  const sounds = inputs.filter((input) => input.configuration.type === 'audio');
  const [first] = screens;
  if (!first && sounds.length === 0) return null;
  const pictureCopied =
    cameras.length === 0 &&
    screens.length === 1 &&
    first?.configuration.type === 'video' &&
    first.configuration.codec.startsWith('avc1');
  // A picture that is encoded again lies on an even grid of frames. Everything is moved by the recorded pictures' phase, so
  // that rounding to the grid does not move them against the sound.
  const phaseUs = pictureCopied || !first ? 0 : gridPhaseUs(first.timesUs, frameRate);
  const picture =
    pictureCopied || !first
      ? null
      : pictureGraph(
          // A still screen says nothing for as long as it is still: its last picture stands until the next segment.
          screens.map((screen, i) => pictureInput(screen, screens[i + 1]?.startUs ?? durationUs)),
          cameras.map((camera) => pictureInput(camera, camera.timesUs.at(-1) ?? camera.startUs)),
          rig.camera ? { kind: 'corner', place: rig.camera.place } : { kind: 'screen' },
          sizeOf(first),
          frameRate,
          phaseUs,
          Math.max(1, Math.round((durationUs * frameRate.num) / (frameRate.den * 1e6))),
          filesPath,
        );
  const pictureFiles = picture?.inputs ?? (first ? ['-i', first.path] : []);
  const before = pictureFiles.filter((word) => word === '-i').length;
  const mix = soundMix(sounds, rig, before, phaseUs);
  const chains = [...(picture?.chains ?? []), ...mix.chains];
  const keyframes = Math.round((2 * frameRate.num) / frameRate.den);
  const video = picture
    ? ['-map', '[picture]', ...H264_ARGS, '-g', String(keyframes)]
    : first
      ? ['-map', '0:v', '-c:v', 'copy']
      : [];
  const sound =
    sounds.length > 0 ? ['-map', '[mix]', '-c:a', 'aac', '-b:a', '160k', '-ar', '48000', '-ac', '2'] : [];
  return {
    args: [
      '-copyts',
      ...pictureFiles,
      ...mix.files,
      ...(chains.length > 0 ? ['-filter_complex', chains.join(';')] : []),
      ...video,
      ...sound,
      ...['-t', seconds(durationUs), '-movflags', '+faststart', '-avoid_negative_ts', 'disabled'],
    ],
    pictureCopied,
    files: picture?.files ?? [],
  };
}

const pictureInput = (input: PlainInput, endUs: number): PictureInput => ({
  path: input.path,
  size: sizeOf(input),
  startUs: input.startUs,
  endUs,
});

/** Made at once and played anywhere, so it must be quick: small files are the business of delivering. */
const H264_ARGS = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-profile:v', 'high'].concat(
  ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
);
