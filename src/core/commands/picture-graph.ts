import { frameTimeUs } from '../base/rational';
import type { Size } from '../base/sizes';
import type { Opening, Shot } from '../deliver/shot';
import { arrange } from '../layout/layout';
import { drawCameras } from './draw-cameras';
import { drawScreens, drawScreensAlone, GROUND_COLOUR } from './draw-screens';
import { fills, type GraphFile, type Growing, plane } from './growing';
import { type InputList, noInputs } from './input-list';
import { seconds } from './seconds';

export type PictureGraph = {
  inputs: InputList;
  /** Filter chains; the composed picture comes out as `[picture]`, in yuv420p, of the composed picture's size. */
  chains: string[];
  files: GraphFile[];
};

/**
 * The picture from a time of a take on, composed by a layout at a constant frame rate.
 * @param opening how it goes over from what came before; null: at once
 * @param size of the composed picture: that of the take's first screen
 * @param filesPath what the names of the small files begin with
 */
export function pictureGraph(
  shot: Shot,
  opening: Opening | null,
  size: Size,
  filesPath: string,
): PictureGraph {
  const graph: PictureGraph = { inputs: noInputs(), chains: [], files: [] };
  const made = draw(graph, shot, size, filesPath, '');
  if (!opening) {
    graph.chains.push(`[${made}]trim=end_frame=${shot.frames},format=yuv420p[picture]`);
    return graph;
  }
  const before = draw(graph, opening.from, size, `${filesPath}.before`, 'b');
  graph.chains.push(...opened(opening, shot, size, before, made));
  return graph;
}

/** Draws a shot. @returns the label of its picture */
function draw(graph: PictureGraph, shot: Shot, size: Size, filesPath: string, tag: string): string {
  const growing: Growing = { ...graph, shot, size, filesPath, tag, last: `${tag}ground` };
  const [screen] = shot.screens;
  const [camera] = shot.cameras;
  const seen = arrange(size, screen?.size ?? size, camera?.size ?? null, shot.layout);
  drawScreens(growing, seen.screen, camera?.size ?? null);
  if (seen.camera && camera) {
    drawCameras(growing, seen.camera);
    if (!fills(seen.screen, size)) drawScreensAlone(growing);
  }
  return growing.last;
}

/** The last picture of what came before stands and fades over the new ones; a dip fades to the ground first, and from it. */
function opened({ kind, frames }: Opening, shot: Shot, size: Size, before: string, made: string): string[] {
  const { rate } = shot;
  const end = `trim=end_frame=${shot.frames},format=yuv420p[picture]`;
  const standing = `loop=loop=-1:size=1,setpts=round(N*${rate.den}/${rate.num}/TB)`;
  const lengthUs = frameTimeUs(frames, rate);
  const [length, half] = [seconds(lengthUs), seconds(lengthUs / 2)];
  const first = `[${before}]trim=end_frame=1,${standing},trim=end_frame=${frames}`;
  if (kind === 'dissolve')
    return [
      `${first},format=yuva420p,fade=t=out:st=0:d=${length}:alpha=1[leaving]`,
      `[${made}][leaving]overlay=eof_action=pass,${end}`,
    ];
  const fades = `fade=t=in:st=0:d=${half}:alpha=1,fade=t=out:st=${half}:d=${half}:alpha=1`;
  return [
    `${first}[leaving]`,
    `${plane({ rate, frames }, size, GROUND_COLOUR, 'yuva420p')},${fades}[dark]`,
    `[${made}][leaving]overlay=eof_action=pass:enable='lt(t,${half})'[over]`,
    `[over][dark]overlay=eof_action=pass,${end}`,
  ];
}
