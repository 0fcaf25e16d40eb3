import type { EncodedPart, PicturePart, PlannedPicture } from '../deliver/planned-picture';
import { encoderBesideCopied, pictureEncoderArgs, sparesCameras } from './encoder-args';
import type { GraphFile } from './growing';
import { outputFilters } from './output-filters';
import { pictureGraph } from './picture-graph';
import { cameraArea, sparingFilter } from './spare-camera';

/** Where a part's film lies, or what it is copied from. */
export const filmPath = (part: PicturePart, scratch: string): string =>
  part.kind === 'copy' ? part.path : `${scratch}/${part.name}.mp4`;

/** The graph of filters that a part's command reads. */
export const graphOf = (files: readonly GraphFile[]): string =>
  new TextDecoder().decode(files.find(({ path }) => path.endsWith('.graph'))?.content);

/** Where some composed pictures of a part lie as they went into the encoder: raw 4:2:0. */
export const referencePath = ({ name }: EncodedPart, scratch: string): string => `${scratch}/${name}.yuv`;

/**
 * What ffmpeg is told to compose and encode one part.
 * @param scratch folder in which everything is made
 * @returns all arguments, and the small files that must lie there before
 */
export function encodePartCommand(
  part: EncodedPart,
  { size, shape }: PlannedPicture,
  scratch: string,
): { args: string[]; files: GraphFile[] } {
  const { rate, frames, encoder, compared } = part;
  const graph = pictureGraph(part.shot, part.opening, size, `${scratch}/${part.name}`);
  const first = compared.frames[0] ?? frames;
  const offset = (compared.every - first) % compared.every;
  const spared =
    'destination' in encoder && sparesCameras(encoder.destination)
      ? cameraArea(part.shot, size, shape)
      : null;
  const sparing = spared ? `,${sparingFilter(spared)}` : '';
  const chains = [
    ...graph.chains,
    '[picture]split=2[made][before]',
    `[made]${outputFilters(size, shape)}${sparing}[out]`,
    `[before]select='not(mod(n+${offset},${compared.every}))',format=yuv420p[reference]`,
  ];
  const encoderArgs =
    'besideCopied' in encoder
      ? encoderBesideCopied(encoder.keyframeFrames)
      : pictureEncoderArgs(encoder.destination, rate, encoder.crf, shape.canvas, spared !== null);
  const written = {
    path: `${scratch}/${part.name}.graph`,
    content: new TextEncoder().encode(chains.join(';')),
  };
  return {
    files: [...graph.files, written],
    args: [
      '-copyts',
      ...graph.inputs.args,
      // As an argument, the graph of a long step with many zooms would be longer than Linux takes (128 KiB).
      ...['-filter_complex_script', written.path],
      ...['-map', '[out]', ...encoderArgs, '-frames:v', String(frames)],
      // A time scale in which every frame of the rate is a whole number.
      ...['-video_track_timescale', String(rate.num * Math.ceil(10_000 / rate.num)), filmPath(part, scratch)],
      ...['-map', '[reference]', '-fps_mode', 'passthrough', '-f', 'rawvideo', referencePath(part, scratch)],
    ],
  };
}
