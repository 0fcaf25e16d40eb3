import { isScaled } from '../deliver/output-shape';
import type { EncodedPart, PicturePart } from '../deliver/picture-part';
import type { PlannedPicture } from '../deliver/planned-picture';
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
 * What ffmpeg is told to compose and encode one part. Where some of its pictures are compared, these are kept as they were composed, and its
 * packets are written to file descriptor 3, too, as soon as they are encoded: whoever compares need not wait for the last one.
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
  const spared =
    'destination' in encoder && sparesCameras(encoder.destination)
      ? cameraArea(part.shot, size, shape)
      : null;
  const sparing = spared ? `,${sparingFilter(spared)}` : '';
  const made = `${outputFilters(size, shape)}${sparing}[out]`;
  const isCompared = compared.frames.length > 0;
  const kept = isCompared ? keptForComparing(part, { size, shape }, scratch) : null;
  const chains = kept
    ? [...graph.chains, '[picture]split=2[made][before]', `[made]${made}`, ...kept.chains]
    : [...graph.chains, `[picture]${made}`];
  const encoderArgs =
    'besideCopied' in encoder
      ? encoderBesideCopied(encoder.keyframeFrames)
      : pictureEncoderArgs(encoder.destination, rate, encoder.crf, shape.canvas, spared !== null);
  const written = {
    path: `${scratch}/${part.name}.graph`,
    content: new TextEncoder().encode(chains.join(';')),
  };
  // A time scale in which every frame of the rate is a whole number.
  const timeScale = rate.num * Math.ceil(10_000 / rate.num);
  const film = filmPath(part, scratch);
  return {
    files: [...graph.files, written],
    args: [
      '-copyts',
      ...graph.inputs.args,
      // As an argument, the graph of a long step with many zooms would be longer than Linux takes (128 KiB).
      ...['-filter_complex_script', written.path],
      ...['-map', '[out]', ...encoderArgs, '-frames:v', String(frames)],
      ...(kept ? twice(film, timeScale) : ['-video_track_timescale', String(timeScale), film]),
      ...(kept?.args ?? []),
    ],
  };
}

/** Arguments that write a film and its packets, as they are encoded; the file is the same, byte by byte, as without them. */
function twice(film: string, timeScale: number): string[] {
  const path = film.replaceAll(/[\\'|\s]/g, (special) => `\\${special}`);
  const slaves = [`[f=mp4:video_track_timescale=${timeScale}]${path}`, '[f=nut:flush_packets=1]pipe:3'];
  // The defaults of MP4, which `tee` does not know.
  return ['-fps_mode', 'vfr', '-flags', '+global_header', '-f', 'tee', slaves.join('|')];
}

/** How the pictures that are compared are kept, from `[before]` on. */
function keptForComparing(
  part: EncodedPart,
  { size, shape }: Pick<PlannedPicture, 'size' | 'shape'>,
  scratch: string,
): { chains: string[]; args: string[] } {
  const { compared, frames } = part;
  const first = compared.frames[0] ?? frames;
  const offset = (compared.every - first) % compared.every;
  const chosen = `[before]select='not(mod(n+${offset},${compared.every}))',format=yuv420p`;
  // Each is whole in its file before its packet comes.
  const to = (label: string, path: string) => [
    ...['-map', `[${label}]`, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-flush_packets', '1', path],
  ];
  const reference = to('reference', referencePath(part, scratch));
  if (!isScaled(size, shape.scaled)) return { chains: [`${chosen}[reference]`], args: reference };
  const scaled = `[unscaled]${outputFilters(size, shape)},${comparingFilters(size, shape)}[scaled]`;
  return {
    chains: [`${chosen},split=2[reference][unscaled]`, scaled],
    args: [...reference, ...to('scaled', scaledReferencePath(part, scratch))],
  };
}
