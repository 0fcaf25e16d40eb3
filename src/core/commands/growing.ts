import { type FrameRate, frameTimeUs } from '../base/rational';
import { type Rect, type Size, sameSize } from '../base/sizes';
import type { Shot } from '../deliver/shot';
import type { PictureInput } from '../deliver/take-sources';
import { type InputList, openInput } from './input-list';
import { seconds } from './seconds';

/** A small file that the graph reads: to be written under `path` before ffmpeg runs. */
export type GraphFile = { path: string; content: Uint8Array<ArrayBuffer> };

/** A graph of filters that grows shot by shot. */
export type Growing = {
  inputs: InputList;
  chains: string[];
  files: GraphFile[];
  shot: Shot;
  /** Of the composed picture: that of the take's first screen. */
  size: Size;
  /** What the names of the small files begin with. */
  filesPath: string;
  /** Before every label of this shot: no two shots of a graph share one. */
  tag: string;
  /** Label of the picture so far. */
  last: string;
};

/** Decoding begins this much before what is wanted: a still screen is repeated at least once a second. */
const LEAD_US = 3_000_000;

/** Opens a segment shortly before it is wanted. Not accurately: pictures before the origin are dropped by the grid. */
export function open({ inputs, shot }: Growing, { path, startUs }: PictureInput): number {
  const fromUs = shot.originUs - LEAD_US;
  return openInput(inputs, path, fromUs > startUs ? ['-noaccurate_seek', '-ss', seconds(fromUs)] : []);
}

/**
 * Puts a segment's pictures on the frames of its shot. Frame n shows the last picture that came before the middle of the interval which it
 * begins, so that jitter of half a frame moves nothing; at another speed the middle of what it shows of the recording counts. A picture
 * that is held is the first of these, as often as there are frames.
 */
export function onGrid({ shot: { originUs, speed, rate, frames } }: Growing): string {
  const from = `PTS-${seconds(originUs)}/TB`;
  // Frames are rounded to the nearest: moved by this much, half a recorded frame is what is rounded.
  const shiftS = ((0.5 - 0.5 / speed) * rate.den) / rate.num;
  const at = speed === 1 || speed === 0 ? from : `(${from})/${speed}+${shiftS.toFixed(9)}/TB`;
  const grid = `setpts=${at},fps=${rate.num}/${rate.den}:start_time=0`;
  if (speed !== 0) return grid;
  return `${grid},trim=end_frame=1,loop=loop=-1:size=1,setpts=round(N*${rate.den}/${rate.num}/TB),trim=end_frame=${frames}`;
}

/** Repeats the last picture to the end of the shot. */
export const toTheEnd = ({ shot: { rate, frames } }: Growing): string =>
  `tpad=stop_mode=clone:stop_duration=${seconds(frameTimeUs(frames, rate))},trim=end_frame=${frames}`;

/** When a segment is there, as an expression. A picture that is held was chosen from those that are. */
export function during({ shot: { originUs, speed } }: Growing, { startUs, endUs }: PictureInput): string {
  if (speed === 0) return '1';
  const at = (us: number) => seconds(Math.round((us - originUs) / speed));
  return `between(t,${at(Math.max(originUs, startUs))},${at(endUs)})`;
}

/** A plane of one colour for as long as the film is. */
export const plane = (
  { rate, frames }: { rate: FrameRate; frames: number },
  { width, height }: Size,
  colour: string,
  format: string,
): string =>
  `color=c=${colour}:s=${width}x${height}:r=${rate.num}/${rate.den},trim=end_frame=${frames},format=${format}`;

/** Lays one picture over what there is so far. */
export function overlay(
  graph: Growing,
  label: string,
  { x, y }: { x: number; y: number },
  how: string,
  as: string,
): void {
  graph.chains.push(`[${graph.last}][${label}]overlay=${x}:${y}:eof_action=${how}[${as}]`);
  graph.last = as;
}

export const fills = (at: Rect | null, size: Size): boolean =>
  at !== null && at.x === 0 && at.y === 0 && sameSize(at, size);
