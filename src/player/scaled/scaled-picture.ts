import { sameValue } from '@/core/base/same-value';
import type { Rect, Size } from '@/core/base/sizes';
import { type FilterLine, filterLine, type Stretch } from '@/core/image/resample';
import { type Kernel, WEIGHTS_SHIFT } from './kernel';

/** A decoded picture: I420, BT.709, limited range, even sides. */
export type Planar = Size & {
  /** Copies the three planes of a part, one after the other and without padding. @param part even on all sides */
  copy: (part: Rect, target: Uint8Array) => Promise<unknown>;
};

/**
 * The pixels (RGBA) of a part of a picture.
 * @param from in the picture's pixels and parts of them; at its edges it may be off by a pixel
 * @returns memory that holds them until the next picture is scaled
 */
export type Scaler = (picture: Planar, from: Rect, to: Size) => Promise<Uint8ClampedArray<ArrayBuffer>>;

/**
 * Scales pictures as they are decoded and turns no more into RGB than is seen: a browser without a graphics card turns the whole picture
 * into RGB first, which takes longer than decoding it (docs/figures.md, `preview`).
 */
export function openScaler(kernel: Kernel): Scaler {
  let filters: Filters | null = null;
  const scale = async (picture: Planar, from: Rect, to: Size) => {
    if (!filters || !sameValue([filters.picture, filters.from, filters.to], [sizeOf(picture), from, to]))
      filters = passFilters(kernel, sizeOf(picture), from, to);
    const { part, at } = filters;
    await picture.copy(part, new Uint8Array(kernel.memory.buffer, at.planes, 1.5 * part.width * part.height));
    drawLines(kernel, filters);
    return new Uint8ClampedArray(
      kernel.memory.buffer as ArrayBuffer,
      at.pixels,
      BYTES_PER_PIXEL * to.width * to.height,
    );
  };
  // One after the other: there is one memory.
  let last: Promise<unknown> = Promise.resolve();
  return (...of) => {
    const made = last.then(() => scale(...of));
    last = made.catch(() => undefined);
    return made;
  };
}

const BYTES_PER_PIXEL = 4;
const PAGE_BYTES = 65_536;
/** What the kernel reads and writes beyond the end of anything. */
const BEYOND = 64;

/** Addresses of one list of weights in the kernel's memory. */
type Passed = FilterLine & { firsts: number; weightsAt: number };
/** The filters of a plane, down and across. */
type Plane = { down: Passed; across: Passed };

type Filters = {
  picture: Size;
  from: Rect;
  to: Size;
  /** What is copied of the picture. */
  part: Rect;
  luma: Plane;
  chroma: Plane;
  at: { planes: number; pixels: number; blended: number[]; gathered: number[] };
};

const sizeOf = ({ width, height }: Size): Size => ({ width, height });

/** Writes what scales such a part into the kernel's memory, which grows when it must. */
function passFilters(kernel: Kernel, picture: Size, from: Rect, to: Size): Filters {
  const part = partAround(picture, from, to);
  const start = { x: from.x - part.x, y: from.y - part.y };
  // Made smaller soft, so that lines do not flicker; made larger sharp.
  const filterOf = ({ length }: Stretch, count: number) => (length > count ? 'bilinear' : 'bicubic');
  const lines = ([1, 2] as const).map((samples) => {
    const down = { start: start.y / samples, length: from.height / samples, of: part.height / samples };
    const across = { start: start.x / samples, length: from.width / samples, of: part.width / samples };
    return {
      down: filterLine(down, to.height, filterOf(down, to.height), WEIGHTS_SHIFT.down),
      across: filterLine(across, to.width, filterOf(across, to.width), WEIGHTS_SHIFT.across, tapsOf),
    };
  });
  let end = kernel.room();
  const place = (bytes: number): number => {
    const at = Math.ceil(end / 16) * 16;
    end = at + bytes + BEYOND;
    return at;
  };
  const placed = lines.map((plane) => {
    const of = (line: FilterLine) => ({
      ...line,
      firsts: place(line.first.byteLength),
      weightsAt: place(line.weights.byteLength),
    });
    return { down: of(plane.down), across: of(plane.across) };
  });
  const taps = Math.max(...lines.map(({ across: { stride } }) => stride));
  const at = {
    planes: place(1.5 * part.width * part.height),
    pixels: place(BYTES_PER_PIXEL * to.width * to.height),
    blended: [0, 1, 2].map(() => place(part.width + taps)),
    gathered: [0, 1, 2].map(() => place(to.width)),
  };
  const missing = end - kernel.memory.buffer.byteLength;
  if (missing > 0) kernel.memory.grow(Math.ceil(missing / PAGE_BYTES));
  const memory = new Uint8Array(kernel.memory.buffer);
  const write = (values: Int32Array | Int16Array, address: number) => {
    memory.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), address);
    // The last pixels are made together with some that nobody asked for, from the line's beginning.
    memory.fill(0, address + values.byteLength, address + values.byteLength + BEYOND);
  };
  for (const plane of placed)
    for (const line of [plane.down, plane.across]) {
      write(line.first, line.firsts);
      write(line.weights, line.weightsAt);
    }
  const [luma, chroma] = placed as [Plane, Plane];
  return { picture, from, to, part, luma, chroma, at };
}

/** As many weights as the kernel takes at once. */
const tapsOf = (most: number): number => (most <= 4 ? 4 : 8 * Math.ceil(most / 8));

/** The even part of a picture in which everything lies that the filters reach. */
function partAround(picture: Size, from: Rect, to: Size): Rect {
  const along = (start: number, length: number, count: number, of: number): [number, number] => {
    // Two samples of colour are four of the picture.
    const reach = Math.max(4, length / count) + 1;
    const first = 2 * Math.max(0, Math.floor((start - reach) / 2));
    return [first, 2 * Math.min(of / 2, Math.ceil((start + length + reach) / 2)) - first];
  };
  const [x, width] = along(from.x, from.width, to.width, picture.width);
  const [y, height] = along(from.y, from.height, to.height, picture.height);
  return { x, y, width, height };
}

/** Makes the pixels from the planes, line by line. */
function drawLines(kernel: Kernel, { part, to, luma, chroma, at }: Filters): void {
  const area = part.width * part.height;
  const planes = [
    { ...luma, from: at.planes, width: part.width },
    { ...chroma, from: at.planes + area, width: part.width / 2 },
    { ...chroma, from: at.planes + 1.25 * area, width: part.width / 2 },
  ];
  const [y, u, v] = at.gathered as [number, number, number];
  for (let n = 0; n < to.height; n++) {
    planes.forEach(({ down, across, from, width }, i) => {
      const [blended, gathered] = [at.blended[i] as number, at.gathered[i] as number];
      const first = from + (down.first[n] as number) * width;
      const weights = down.weightsAt + 2 * n * down.stride;
      kernel.blend(first, width, down.count[n] as number, weights, width, blended);
      if (across.stride === 4) kernel.gather4(blended, across.firsts, across.weightsAt, to.width, gathered);
      else kernel.gather(blended, across.firsts, across.stride, across.weightsAt, to.width, gathered);
    });
    kernel.toRgba(y, u, v, to.width, at.pixels + BYTES_PER_PIXEL * n * to.width);
  }
}
