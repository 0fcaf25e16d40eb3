import { gridPhaseUs } from '../base/rational';
import { codecOfString } from '../codec/fourcc';
import { UNCHANGED_LOOKS } from '../cut/looks';
import {
  isPicture,
  isSound,
  type PlainInput,
  type PlainPicture,
  sizeOfPicture,
} from '../deliver/plain-input';
import type { PictureInput } from '../deliver/take-sources';
import { layoutOf } from '../layout/layout-kinds';
import { segmentEndUs } from '../recording/segment-end';
import type { Rig } from '../rig/rig';
import { BT709_ARGS } from './encoder-args';
import type { GraphFile } from './growing';
import { noInputs, openInput } from './input-list';
import { type PictureGraph, pictureGraph } from './picture-graph';
import { soundMix } from './plain-sound';
import { seconds } from './seconds';

export type PlainPlan = {
  /** ffmpeg's arguments up to the output file. */
  args: string[];
  pictureCopied: boolean;
  /** What the graph reads beside the segments. */
  files: GraphFile[];
};

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
  const pictures = inputs.filter(isPicture);
  const screens = pictures.filter(({ track }) => track === 'screen');
  const cameras = rig.camera ? pictures.filter(({ track }) => track === 'camera') : [];
  const sounds = inputs.filter(isSound);
  const [first] = screens;
  if (!first && sounds.length === 0) return null;
  const pictureCopied =
    cameras.length === 0 &&
    screens.length === 1 &&
    first !== undefined &&
    codecOfString(first.configuration.codec) === 'h264';
  // A picture that is encoded again lies on an even grid of frames. Everything is moved by the recorded pictures' phase, so
  // that rounding to the grid does not move them against the sound.
  const phaseUs = pictureCopied || !first ? 0 : gridPhaseUs(first.timesUs, rig.picture.frameRate);
  const graph =
    first && !pictureCopied
      ? plainPicture(first, screens, cameras, rig, durationUs, phaseUs, filesPath)
      : null;
  const list = graph?.inputs ?? noInputs();
  if (first && pictureCopied) openInput(list, first.path);
  const chains = [...(graph?.chains ?? []), ...soundMix(sounds, rig, list, phaseUs)];
  return {
    args: [
      ...['-copyts', ...list.args],
      ...(chains.length > 0 ? ['-filter_complex', chains.join(';')] : []),
      ...(graph
        ? ['-map', '[picture]', ...encodedQuickly(rig)]
        : first
          ? ['-map', '0:v', '-c:v', 'copy']
          : []),
      ...(sounds.length > 0 ? ['-map', '[mix]', ...SOUND_ARGS] : []),
      ...['-t', seconds(durationUs), '-movflags', '+faststart', '-avoid_negative_ts', 'disabled'],
    ],
    pictureCopied,
    files: graph?.files ?? [],
  };
}

function plainPicture(
  first: PlainPicture,
  screens: readonly PlainPicture[],
  cameras: readonly PlainPicture[],
  rig: Rig,
  durationUs: number,
  phaseUs: number,
  filesPath: string,
): PictureGraph {
  const rate = rig.picture.frameRate;
  return pictureGraph(
    {
      // A still screen says nothing for as long as it is still: its last picture stands until the next segment.
      screens: screens.map((screen, i) => pictureInput(screen, screens[i + 1]?.startUs ?? durationUs)),
      cameras: cameras.map((camera) => pictureInput(camera, segmentEndUs(camera.timesUs))),
      layout: layoutOf(rig.camera),
      ...{ rate, originUs: phaseUs, speed: 1, views: [], covers: [], looks: UNCHANGED_LOOKS },
      frames: Math.max(1, Math.round((durationUs * rate.num) / (rate.den * 1e6))),
    },
    null,
    sizeOfPicture(first),
    filesPath,
  );
}

const pictureInput = (input: PlainPicture, endUs: number): PictureInput => ({
  path: input.path,
  size: sizeOfPicture(input),
  startUs: input.startUs,
  endUs,
});

const KEYFRAME_EVERY_S = 2;
/** Made at once and played anywhere, so it must be quick: small files are the business of delivering. */
const encodedQuickly = ({ picture: { frameRate } }: Rig): string[] => [
  ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '20', '-profile:v', 'high', ...BT709_ARGS],
  ...['-g', String(Math.round((KEYFRAME_EVERY_S * frameRate.num) / frameRate.den))],
];
const SOUND_ARGS = ['-c:a', 'aac', '-b:a', '160k', '-ar', '48000', '-ac', '2'];
