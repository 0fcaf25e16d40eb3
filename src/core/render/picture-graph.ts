import { yuvOfHex } from '../bt709';
import { type ColourKey, spillCube } from '../colour-key';
import { isMirrored, type Layout } from '../cut/cut';
import { arrange, GROUND } from '../layout';
import { type FrameRate, frameTimeUs } from '../rational';
import type { Rect, Size } from '../sizes';

/** A picture segment of a take as an input of the filter graph. Times are the take's. */
export type PictureInput = { path: string; size: Size; startUs: number; endUs: number };

/** A small file that the graph reads: to be written under `path` before ffmpeg runs. */
export type GraphFile = { path: string; content: Uint8Array<ArrayBuffer> };

export type PictureGraph = {
  /** ffmpeg's input options and files, in the order of their numbers. */
  inputs: string[];
  /** Filter chains; the composed picture comes out as `[picture]`, in yuv420p, of `size`. */
  chains: string[];
  files: GraphFile[];
};

const seconds = (us: number) => (us / 1e6).toFixed(6);
/** Decoding begins this much before what is wanted: a still screen is repeated at least once a second. */
const LEAD_US = 3_000_000;
/** A camera that is not there for so long is a picture that came late, as the player takes it. */
const SHORT_ABSENCE_US = 100_000;

/**
 * The picture from a time of a take on, composed by a layout at a constant frame rate. Frame n shows the last picture that came before
 * the middle of the interval which it begins, so that jitter of half a frame moves nothing.
 * @param screens segments that are seen in this time, the first one first
 * @param size of the composed picture: that of the take's first screen
 * @param filesPath what the names of the small files begin with
 */
export function pictureGraph(
  screens: readonly PictureInput[],
  cameras: readonly PictureInput[],
  layout: Layout,
  size: Size,
  rate: FrameRate,
  originUs: number,
  frames: number,
  filesPath: string,
): PictureGraph {
  const grid = `setpts=PTS-${seconds(originUs)}/TB,fps=${rate.num}/${rate.den}:start_time=0`;
  const hold = `tpad=stop_mode=clone:stop_duration=${seconds(frameTimeUs(frames, rate))},trim=end_frame=${frames}`;
  const inputs: string[] = [];
  const chains: string[] = [];
  let count = 0;
  const open = ({ path, startUs }: PictureInput): number => {
    const fromUs = originUs - LEAD_US;
    // Not accurately: the keyframe before is where decoding begins, and pictures before the origin are dropped by the grid.
    if (fromUs > startUs) inputs.push('-noaccurate_seek', '-ss', seconds(fromUs));
    inputs.push('-i', path);
    return count++;
  };
  const during = ({ startUs, endUs }: PictureInput) =>
    `between(t,${seconds(Math.max(0, startUs - originUs))},${seconds(endUs - originUs)})`;
  const when = (input: PictureInput) => `enable='${during(input)}'`;
  const withoutCamera = (inputs: readonly PictureInput[], fromUs: number, toUs: number): string | null => {
    const present = [...inputs].sort((a, b) => a.startUs - b.startUs);
    const ends = [fromUs, ...present.map(({ endUs }) => endUs)];
    const starts = [...present.map(({ startUs }) => startUs), toUs];
    const gap = starts.some((startUs, i) => startUs - (ends[i] ?? startUs) > SHORT_ABSENCE_US);
    return gap ? `not(${present.map(during).join('+')})` : null;
  };
  const camera = cameras[0];
  const [firstScreen] = screens;
  const seen = arrange(size, firstScreen?.size ?? size, camera?.size ?? null, layout);
  let last = 'ground';
  const onGround = !seen.screen || !fills(seen.screen, size);
  if (onGround || !firstScreen)
    chains.push(
      `color=c=${GROUND.replace('#', '0x')}:s=${size.width}x${size.height}:r=${rate.num}/${rate.den},trim=end_frame=${frames},format=yuv420p[ground]`,
    );
  if (seen.screen)
    screens.forEach((screen, i) => {
      const at = arrange(size, screen.size, camera?.size ?? null, layout).screen ?? seen.screen;
      if (!at) return;
      const scale = same(at, screen.size) ? '' : `,scale=${at.width}:${at.height}:flags=bicubic`;
      const chain = `[${open(screen)}:v]${grid}${scale}`;
      // The first one is the ground itself where it fills the picture.
      if (i === 0 && !onGround) chains.push(`${chain},${hold}[screen0]`);
      else {
        chains.push(`${chain}[part${i}]`);
        const shown = i === 0 ? '' : `:${when(screen)}`;
        chains.push(`[${last}][part${i}]overlay=${at.x}:${at.y}:eof_action=repeat${shown}[screen${i}]`);
      }
      last = `screen${i}`;
    });
  const files: GraphFile[] = [];
  if (seen.camera && camera) {
    const { at, crop, radius, border, key } = seen.camera;
    const numbers = cameras.map(open);
    /** A still picture as an input, once for each camera. */
    const still = (name: string, content: Uint8Array<ArrayBuffer>) => {
      files.push({ path: `${filesPath}.${name}.pgm`, content: pgm(content, at) });
      inputs.push('-loop', '1', '-framerate', '1', '-i', `${filesPath}.${name}.pgm`);
      const each = cameras.map((_, i) => `[${name}${i}]`).join('');
      chains.push(`[${count}:v]format=gray,split=${cameras.length}${each}`);
      count++;
    };
    const rounded = radius > 0;
    if (rounded) still('mask', roundedMask(at.width, at.height, radius));
    if (border) still('ring', ringMask(at.width, at.height, radius, border.px));
    const spill = key && key.spill > 0 ? `${filesPath}.cube` : null;
    if (key && spill) files.push({ path: spill, content: new TextEncoder().encode(spillCube(key)) });
    cameras.forEach((one, i) => {
      const mirror = isMirrored(layout) ? ',hflip' : '';
      const shape = `crop=${crop.width}:${crop.height}:${crop.x}:${crop.y},scale=${at.width}:${at.height}:flags=bicubic${mirror}`;
      const alpha = rounded && !key ? ',format=yuva420p' : '';
      chains.push(`[${numbers[i]}:v]${grid},${shape}${key ? keyed(key, spill) : alpha}[face${i}]`);
      let face = `face${i}`;
      if (rounded && key) {
        // Opaque is what both leave: the wall's opacity times the shape's.
        chains.push(`[face${i}]split[colour${i}][both${i}]`);
        chains.push(`[both${i}]alphaextract[own${i}]`);
        chains.push(`[own${i}][mask${i}]blend=all_mode=multiply:eof_action=repeat[opaque${i}]`);
        chains.push(`[colour${i}][opaque${i}]alphamerge[round${i}]`);
        face = `round${i}`;
      } else if (rounded) {
        chains.push(`[face${i}][mask${i}]alphamerge[round${i}]`);
        face = `round${i}`;
      }
      chains.push(`[${last}][${face}]overlay=${at.x}:${at.y}:eof_action=pass:${when(one)}[over${i}]`);
      last = `over${i}`;
      if (!border) return;
      const line = `color=c=${border.colour.replace('#', '0x')}:s=${at.width}x${at.height}:r=${rate.num}/${rate.den},trim=end_frame=${frames},format=yuva420p`;
      chains.push(`${line}[line${i}]`, `[line${i}][ring${i}]alphamerge[border${i}]`);
      chains.push(`[${last}][border${i}]overlay=${at.x}:${at.y}:eof_action=pass:${when(one)}[lined${i}]`);
      last = `lined${i}`;
    });
    // Without a camera the screen is shown as if there were none, as in the player.
    const away = withoutCamera(cameras, originUs, originUs + frameTimeUs(frames, rate));
    if (away && (seen.screen === null || !fills(seen.screen, size)))
      screens.forEach((screen, i) => {
        const at = arrange(size, screen.size, null, layout).screen;
        if (!at) return;
        const box = `${size.width}:${size.height}:${at.x}:${at.y}:${GROUND.replace('#', '0x')}`;
        const whole = `scale=${at.width}:${at.height}:flags=bicubic,pad=${box}`;
        const also = i === 0 ? '' : `*${during(screen)}`;
        chains.push(`[${open(screen)}:v]${grid},${whole}[alone${i}]`);
        chains.push(`[${last}][alone${i}]overlay=0:0:eof_action=repeat:enable='${away}${also}'[whole${i}]`);
        last = `whole${i}`;
      });
  }
  chains.push(`[${last}]trim=end_frame=${frames},format=yuv420p[picture]`);
  return { inputs, chains, files };
}

const same = (a: Size, b: Size) => a.width === b.width && a.height === b.height;
const fills = (at: Rect, size: Size) => at.x === 0 && at.y === 0 && same(at, size);

/** Takes a wall away by its colour (`colour-key.ts`): the same distance and fade, computed in the colour differences of BT.709. */
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

/** The mask of a line along the inside of a rounded rectangle's edge. */
export function ringMask(width: number, height: number, radius: number, px: number): Uint8Array<ArrayBuffer> {
  const ring = roundedMask(width, height, radius);
  const [innerWidth, innerHeight] = [Math.max(0, width - 2 * px), Math.max(0, height - 2 * px)];
  const inner = roundedMask(innerWidth, innerHeight, Math.max(0, radius - px));
  for (let y = 0; y < innerHeight; y++)
    for (let x = 0; x < innerWidth; x++) {
      const at = (y + px) * width + x + px;
      ring[at] = Math.max(0, (ring[at] as number) - (inner[y * innerWidth + x] as number));
    }
  return ring;
}

/**
 * The mask of a rounded rectangle, one byte a pixel, edges smoothed over a pixel.
 * @param radius of the corners, in pixels; half the shorter side makes a circle
 */
export function roundedMask(width: number, height: number, radius: number): Uint8Array<ArrayBuffer> {
  const mask = new Uint8Array(width * height);
  if (radius <= 0) return mask.fill(255);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const dx = Math.max(radius - (x + 0.5), x + 0.5 - (width - radius), 0);
      const dy = Math.max(radius - (y + 0.5), y + 0.5 - (height - radius), 0);
      const inside = radius - Math.hypot(dx, dy) + 0.5;
      mask[y * width + x] = Math.round(255 * Math.max(0, Math.min(1, inside)));
    }
  return mask;
}
