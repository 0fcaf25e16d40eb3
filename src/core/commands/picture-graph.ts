import { type FrameRate, frameTimeUs } from '../base/rational';
import type { Rect, Size } from '../base/sizes';
import { sameSize } from '../base/sizes';
import type { PictureInput } from '../deliver/take-sources';
import { yuvOfHex } from '../image/bt709';
import { type ColourKey, spillCube } from '../image/colour-key';
import { arrange, type CameraBox, GROUND } from '../layout/layout';
import { isMirrored, type Layout } from '../layout/layout-kinds';
import { ringMask, roundedMask } from '../layout/masks';
import { type InputList, noInputs, openInput } from './input-list';
import { seconds } from './seconds';

/** A stretch of a take as it is seen: which recorded pictures, how they are laid out, and on which frames. */
export type Composition = {
  /** Segments that are seen in this time, the first one first. */
  screens: readonly PictureInput[];
  cameras: readonly PictureInput[];
  layout: Layout;
  /** Of the composed picture: that of the take's first screen. */
  size: Size;
  rate: FrameRate;
  /** Take time of its first frame. */
  originUs: number;
  frames: number;
};

/** A small file that the graph reads: to be written under `path` before ffmpeg runs. */
export type GraphFile = { path: string; content: Uint8Array<ArrayBuffer> };

export type PictureGraph = {
  inputs: InputList;
  /** Filter chains; the composed picture comes out as `[picture]`, in yuv420p, of the composition's size. */
  chains: string[];
  files: GraphFile[];
};

/** A graph that grows; `last` is the label of the picture so far. */
type Growing = PictureGraph & { last: string; shot: Composition; filesPath: string; grid: string };

/** Decoding begins this much before what is wanted: a still screen is repeated at least once a second. */
const LEAD_US = 3_000_000;
/** A camera that is not there for so long is a picture that came late, as the player takes it. */
const SHORT_ABSENCE_US = 100_000;
const GROUND_COLOUR = GROUND.replace('#', '0x');

/**
 * The picture from a time of a take on, composed by a layout at a constant frame rate. Frame n shows the last picture that came before
 * the middle of the interval which it begins, so that jitter of half a frame moves nothing.
 * @param filesPath what the names of the small files begin with
 */
export function pictureGraph(shot: Composition, filesPath: string): PictureGraph {
  const { originUs, rate, frames } = shot;
  const grid = `setpts=PTS-${seconds(originUs)}/TB,fps=${rate.num}/${rate.den}:start_time=0`;
  const graph: Growing = {
    ...{ inputs: noInputs(), chains: [], files: [] },
    ...{ last: 'ground', shot, filesPath, grid },
  };
  const [screen] = shot.screens;
  const [camera] = shot.cameras;
  const seen = arrange(shot.size, screen?.size ?? shot.size, camera?.size ?? null, shot.layout);
  drawScreens(graph, seen.screen, camera?.size ?? null);
  if (seen.camera && camera) {
    drawCameras(graph, seen.camera);
    if (!fills(seen.screen, shot.size)) drawScreensAlone(graph);
  }
  const { inputs, chains, files, last } = graph;
  return {
    inputs,
    files,
    chains: [...chains, `[${last}]trim=end_frame=${frames},format=yuv420p[picture]`],
  };
}

const fills = (at: Rect | null, size: Size) => at !== null && at.x === 0 && at.y === 0 && sameSize(at, size);

/** Opens a segment shortly before it is wanted. Not accurately: pictures before the origin are dropped by the grid. */
function open({ inputs, shot }: Growing, { path, startUs }: PictureInput): number {
  const fromUs = shot.originUs - LEAD_US;
  return openInput(inputs, path, fromUs > startUs ? ['-noaccurate_seek', '-ss', seconds(fromUs)] : []);
}

const during = ({ shot: { originUs } }: Growing, { startUs, endUs }: PictureInput): string =>
  `between(t,${seconds(Math.max(0, startUs - originUs))},${seconds(endUs - originUs)})`;

/** A plane of one colour for as long as the film is. */
const plane = (
  { shot: { rate, frames } }: Growing,
  { width, height }: Size,
  colour: string,
  format: string,
) =>
  `color=c=${colour}:s=${width}x${height}:r=${rate.num}/${rate.den},trim=end_frame=${frames},format=${format}`;

/** Lays one picture over what there is so far. */
function overlay(
  graph: Growing,
  label: string,
  { x, y }: { x: number; y: number },
  how: string,
  as: string,
): void {
  graph.chains.push(`[${graph.last}][${label}]overlay=${x}:${y}:eof_action=${how}[${as}]`);
  graph.last = as;
}

/** The screens beside or under the camera, on the ground where they leave some of it free. */
function drawScreens(graph: Growing, seen: Rect | null, camera: Size | null): void {
  const { shot, chains, grid } = graph;
  const { size, rate, frames, layout } = shot;
  const hold = `tpad=stop_mode=clone:stop_duration=${seconds(frameTimeUs(frames, rate))},trim=end_frame=${frames}`;
  const onGround = !fills(seen, size);
  if (onGround || shot.screens.length === 0)
    chains.push(`${plane(graph, size, GROUND_COLOUR, 'yuv420p')}[ground]`);
  if (!seen) return;
  for (const [i, screen] of shot.screens.entries()) {
    const at = arrange(size, screen.size, camera, layout).screen ?? seen;
    const scale = sameSize(at, screen.size) ? '' : `,scale=${at.width}:${at.height}:flags=bicubic`;
    const chain = `[${open(graph, screen)}:v]${grid}${scale}`;
    // The first one is the ground itself where it fills the picture.
    if (i === 0 && !onGround) {
      chains.push(`${chain},${hold}[screen0]`);
      graph.last = 'screen0';
      continue;
    }
    chains.push(`${chain}[part${i}]`);
    overlay(
      graph,
      `part${i}`,
      at,
      `repeat${i === 0 ? '' : `:enable='${during(graph, screen)}'`}`,
      `screen${i}`,
    );
  }
}

function drawCameras(graph: Growing, { at, crop, radius, border, key }: CameraBox): void {
  const { shot, chains, files, filesPath, grid } = graph;
  const numbers = shot.cameras.map((camera) => open(graph, camera));
  const rounded = radius > 0;
  if (rounded) addStill(graph, 'mask', roundedMask(at.width, at.height, radius), at);
  if (border) addStill(graph, 'ring', ringMask(at.width, at.height, radius, border.px), at);
  const spill = key && key.spill > 0 ? `${filesPath}.cube` : null;
  if (key && spill) files.push({ path: spill, content: new TextEncoder().encode(spillCube(key)) });
  const mirror = isMirrored(shot.layout) ? ',hflip' : '';
  const shape = `crop=${crop.width}:${crop.height}:${crop.x}:${crop.y},scale=${at.width}:${at.height}:flags=bicubic${mirror}`;
  const alpha = rounded && !key ? ',format=yuva420p' : '';
  for (const [i, camera] of shot.cameras.entries()) {
    const when = `pass:enable='${during(graph, camera)}'`;
    chains.push(`[${numbers[i]}:v]${grid},${shape}${key ? keyed(key, spill) : alpha}[face${i}]`);
    if (rounded) roundOff(graph, i, key !== null);
    overlay(graph, rounded ? `round${i}` : `face${i}`, at, when, `over${i}`);
    if (!border) continue;
    const colour = border.colour.replace('#', '0x');
    chains.push(
      `${plane(graph, at, colour, 'yuva420p')}[line${i}]`,
      `[line${i}][ring${i}]alphamerge[border${i}]`,
    );
    overlay(graph, `border${i}`, at, when, `lined${i}`);
  }
}

/** A still picture as an input, once for each camera: `[name0]`, `[name1]` … */
function addStill(
  { inputs, chains, files, filesPath, shot }: Growing,
  name: string,
  levels: Uint8Array,
  size: Size,
) {
  const path = `${filesPath}.${name}.pgm`;
  files.push({ path, content: pgm(levels, size) });
  const number = openInput(inputs, path, ['-loop', '1', '-framerate', '1']);
  const each = shot.cameras.map((_, i) => `[${name}${i}]`).join('');
  chains.push(`[${number}:v]format=gray,split=${shot.cameras.length}${each}`);
}

/** Gives a camera its rounded shape. With a chroma key, its opacity is the key's times the shape's. */
function roundOff({ chains }: Growing, i: number, isKeyed: boolean): void {
  if (!isKeyed) {
    chains.push(`[face${i}][mask${i}]alphamerge[round${i}]`);
    return;
  }
  chains.push(
    `[face${i}]split[colour${i}][both${i}]`,
    `[both${i}]alphaextract[own${i}]`,
    `[own${i}][mask${i}]blend=all_mode=multiply:eof_action=repeat[opaque${i}]`,
    `[colour${i}][opaque${i}]alphamerge[round${i}]`,
  );
}

/** While there is no camera the screen is shown as if there were none, as in the player. */
function drawScreensAlone(graph: Growing): void {
  const { shot, chains, grid } = graph;
  const { size, layout } = shot;
  const away = whenAway(graph);
  if (!away) return;
  for (const [i, screen] of shot.screens.entries()) {
    const at = arrange(size, screen.size, null, layout).screen;
    if (!at) continue;
    const box = `${size.width}:${size.height}:${at.x}:${at.y}:${GROUND_COLOUR}`;
    const whole = `scale=${at.width}:${at.height}:flags=bicubic,pad=${box}`;
    chains.push(`[${open(graph, screen)}:v]${grid},${whole}[alone${i}]`);
    const also = i === 0 ? '' : `*${during(graph, screen)}`;
    overlay(graph, `alone${i}`, { x: 0, y: 0 }, `repeat:enable='${away}${also}'`, `whole${i}`);
  }
}

/** When no camera is there, as an expression; null when there always is one. */
function whenAway(graph: Growing): string | null {
  const { cameras, originUs, frames, rate } = graph.shot;
  const present = [...cameras].sort((a, b) => a.startUs - b.startUs);
  const ends = [originUs, ...present.map(({ endUs }) => endUs)];
  const starts = [...present.map(({ startUs }) => startUs), originUs + frameTimeUs(frames, rate)];
  const gap = starts.some((startUs, i) => startUs - (ends[i] ?? startUs) > SHORT_ABSENCE_US);
  return gap ? `not(${present.map((camera) => during(graph, camera)).join('+')})` : null;
}

/** Keys the background out by its colour (`colour-key.ts`): the same distance and fade, computed in the colour differences of BT.709. */
function keyed(key: ColourKey, cubePath: string | null): string {
  const wall = yuvOfHex(key.colour).map((level) => level.toString(16).padStart(2, '0'));
  const opacity = `format=yuva444p,chromakey=0x${wall.join('')}:${key.tolerance}:${key.softness}:yuv=1`;
  if (!cubePath) return `,${opacity},format=yuva420p`;
  const matrix = 'in_color_matrix=bt709:out_color_matrix=bt709:in_range=tv:out_range';
  return `,${opacity},scale=${matrix}=pc,format=rgba,lut3d=file='${cubePath}',scale=out_color_matrix=bt709:out_range=tv,format=yuva420p`;
}

/** A picture of grey levels, one byte a pixel, as a file (netpbm's PGM, P5). */
function pgm(levels: Uint8Array, { width, height }: Size): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`P5 ${width} ${height} 255\n`);
  const file = new Uint8Array(head.length + levels.length);
  file.set(head);
  file.set(levels, head.length);
  return file;
}
