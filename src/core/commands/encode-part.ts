import { isScaled } from '../deliver/output-shape';
import type { EncodedPart, PicturePart, PlannedPicture } from '../deliver/planned-picture';
import { encoderBesideCopied, pictureEncoderArgs, sparesCameras } from './encoder-args';
import type { GraphFile } from './growing';
import { comparingFilters, outputFilters } from './output-filters';
import { pictureGraph } from './picture-graph';
import { cameraArea, sparingFilter } from './spare-camera';

/** Where a part's film lies, or what it is copied from. */
export const filmPath = (part: PicturePart, scratch: string): string =>
  part.kind === 'copy' ? part.path : `${scratch}/${part.name}.mp4`;

/** The graph of filters that a part's command reads. */
export const graphOf = (files: readonly GraphFile[]): string =>
  new TextDecoder().decode(files.find(({ path }) => path.endsWith('.graph'))?.content);

/** Where some pictures of a part lie as they were composed: raw 4:2:0. */
export const referencePath = ({ name }: EncodedPart, scratch: string): string => `${scratch}/${name}.yuv`;
/** Where the same pictures lie when they are scaled: there and back, as a perfect encoder would leave them. */
export const scaledReferencePath = ({ name }: EncodedPart, scratch: string): string =>
  `${scratch}/${name}.scaled.yuv`;

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
  const scaled = isScaled(size, shape.scaled);
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
    `[before]select='not(mod(n+${offset},${compared.every}))',format=yuv420p${scaled ? ',split=2[reference][unscaled]' : '[reference]'}`,
    ...(scaled ? [`[unscaled]${outputFilters(size, shape)},${comparingFilters(size, shape)}[scaled]`] : []),
  ];
  const kept = (label: string, path: string) => [
    ...['-map', `[${label}]`, '-fps_mode', 'passthrough', '-f', 'rawvideo', path],
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
      ...kept('reference', referencePath(part, scratch)),
      ...(scaled ? kept('scaled', scaledReferencePath(part, scratch)) : []),
    ],
  };
}
