import type { Size } from '../base/sizes';
import { yuvOfHex } from '../image/bt709';
import { type ColourKey, spillCube } from '../image/colour-key';
import type { CameraBox } from '../layout/layout';
import { isMirrored } from '../layout/layout-kinds';
import { ringMask, roundedMask } from '../layout/masks';
import { during, type Growing, onGrid, open, overlay, plane } from './growing';
import { openInput } from './input-list';
import { lit } from './screen-effects';

/** The cameras over what there is so far, each while it is there. */
export function drawCameras(graph: Growing, { at, crop, radius, border, key }: CameraBox): void {
  const { shot, chains, files, filesPath, tag } = graph;
  const numbers = shot.cameras.map((camera) => open(graph, camera));
  const rounded = radius > 0;
  if (rounded) addStill(graph, 'mask', roundedMask(at.width, at.height, radius), at);
  if (border) addStill(graph, 'ring', ringMask(at.width, at.height, radius, border.px), at);
  const spill = key && key.spill > 0 ? `${filesPath}.cube` : null;
  if (key && spill) files.push({ path: spill, content: new TextEncoder().encode(spillCube(key)) });
  const mirror = isMirrored(shot.layout) ? ',hflip' : '';
  const scaled = `scale=${at.width}:${at.height}:flags=bicubic${mirror}`;
  const shape = `crop=${crop.width}:${crop.height}:${crop.x}:${crop.y},${scaled}`;
  const alpha = rounded && !key ? ',format=yuva420p' : '';
  for (const [i, camera] of shot.cameras.entries()) {
    const when = `pass:enable='${during(graph, camera)}'`;
    chains.push(
      `[${numbers[i]}:v]${onGrid(graph)},${shape}${key ? keyed(key, spill) : alpha}${lit(shot.looks.camera)}[${tag}face${i}]`,
    );
    if (rounded) roundOff(graph, i, key !== null);
    overlay(graph, `${tag}${rounded ? 'round' : 'face'}${i}`, at, when, `${tag}over${i}`);
    if (!border) continue;
    const colour = border.colour.replace('#', '0x');
    chains.push(
      `${plane(shot, at, colour, 'yuva420p')}[${tag}line${i}]`,
      `[${tag}line${i}][${tag}ring${i}]alphamerge[${tag}border${i}]`,
    );
    overlay(graph, `${tag}border${i}`, at, when, `${tag}lined${i}`);
  }
}

/** A still picture as an input, once for each camera: `[name0]`, `[name1]` … */
function addStill(
  { inputs, chains, files, filesPath, shot, tag }: Growing,
  name: string,
  levels: Uint8Array,
  size: Size,
) {
  const path = `${filesPath}.${name}.pgm`;
  files.push({ path, content: pgm(levels, size) });
  const number = openInput(inputs, path, ['-loop', '1', '-framerate', '1']);
  const each = shot.cameras.map((_, i) => `[${tag}${name}${i}]`).join('');
  chains.push(`[${number}:v]format=gray,split=${shot.cameras.length}${each}`);
}

/** Gives a camera its rounded shape. With a chroma key, its opacity is the key's times the shape's. */
function roundOff({ chains, tag }: Growing, i: number, isKeyed: boolean): void {
  const label = (name: string) => `[${tag}${name}${i}]`;
  if (!isKeyed) {
    chains.push(`${label('face')}${label('mask')}alphamerge${label('round')}`);
    return;
  }
  chains.push(
    `${label('face')}split${label('colour')}${label('both')}`,
    `${label('both')}alphaextract${label('own')}`,
    `${label('own')}${label('mask')}blend=all_mode=multiply:eof_action=repeat${label('opaque')}`,
    `${label('colour')}${label('opaque')}alphamerge${label('round')}`,
  );
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
