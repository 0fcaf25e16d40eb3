import { z } from 'zod';
import type { Rect, Size } from '../base/sizes';
import { Us } from './piece';

const Share = z.number().min(0).max(1);
/** A part of the screen's picture, shares of its width and height. */
export const Area = z
  .object({ x: Share, y: Share, width: Share, height: Share })
  .refine(
    ({ x, y, width, height }) => x + width <= 1.000_001 && y + height <= 1.000_001,
    'it must lie inside the picture',
  )
  .refine(
    ({ width, height }) => width >= 0.01 && height >= 0.01,
    'it must be at least a hundredth of the picture',
  );
export type Area = z.infer<typeof Area>;

export const WHOLE: Area = { x: 0, y: 0, width: 1, height: 1 };

/** A time of a step, in its own time: before its speed, so that another speed moves nothing in the picture. */
export const Span = z
  .object({ fromUs: Us, toUs: Us })
  .refine(({ fromUs, toUs }) => fromUs < toUs, 'it must end after it begins');
export type Span = z.infer<typeof Span>;

/** An area that fills the picture for a while; the picture moves there and back within `easeUs`. */
export const Zoom = Span.and(z.object({ area: Area, easeUs: Us.max(10_000_000) }));
export type Zoom = z.infer<typeof Zoom>;

/** What hides an area: its own picture, coarse beyond reading, or a plain colour. */
export const CoverKind = z.enum(['blur', 'colour']);
export type CoverKind = z.infer<typeof CoverKind>;

/** An area that nobody gets to see for a while: it is not in the delivered file. */
export const Cover = Span.and(z.object({ area: Area, kind: CoverKind }));
export type Cover = z.infer<typeof Cover>;

/** Plain covers are of this colour: quiet on a light and on a dark screen. */
export const COVER_COLOUR = '#8a948f';

export const USUAL_EASE_US = 600_000;

/** The part of spans that lies between two times, counted from the first of these. */
export const spansBetween = <T extends Span>(spans: readonly T[], fromUs: number, toUs: number): T[] =>
  spans.flatMap((span) => {
    const [from, to] = [Math.max(span.fromUs, fromUs), Math.min(span.toUs, toUs)];
    return from < to ? [{ ...span, fromUs: from - fromUs, toUs: to - fromUs }] : [];
  });

/** Spans that all come later. */
export const spansLater = <T extends Span>(spans: readonly T[], byUs: number): T[] =>
  spans.map((span) => ({ ...span, fromUs: span.fromUs + byUs, toUs: span.toUs + byUs }));

/** Spans of which each that another one continues, alike in all else, is one with it. */
export function spansJoined<T extends Span>(spans: readonly T[], isAlike: (a: T, b: T) => boolean): T[] {
  const all: T[] = [];
  for (const span of spans) {
    const index = all.findIndex((each) => each.toUs === span.fromUs && isAlike(each, span));
    const before = all[index];
    if (before) all[index] = { ...before, toUs: span.toUs };
    else all.push(span);
  }
  return all;
}

/** A time of a step at which the picture shows an area; between two of them it moves. */
export type View = { atUs: number; area: Area };

/**
 * Where the picture stands and moves, as keyframes in order. Zooms that touch move straight from one to the other; one that begins with
 * its step is there from the start, and one that ends with it stays to the end, so that splitting a step changes nothing that is seen.
 * @param zooms none overlaps another
 * @returns none where all of the picture is seen all the time
 */
export function views(zooms: readonly Zoom[], stepUs: number): View[] {
  const sorted = [...zooms].filter(({ fromUs }) => fromUs < stepUs).sort((a, b) => a.fromUs - b.fromUs);
  return sorted.flatMap(({ fromUs, toUs, area, easeUs }, i): View[] => {
    const endUs = Math.min(toUs, stepUs);
    const easedUs = Math.min(easeUs, Math.floor((endUs - fromUs) / 2));
    const before = sorted[i - 1];
    const touches = before !== undefined && before.toUs >= fromUs;
    const isLast = sorted[i + 1]?.fromUs !== endUs;
    return [
      ...(fromUs === 0 ? [] : [{ atUs: fromUs, area: touches ? before.area : WHOLE }]),
      { atUs: fromUs === 0 ? 0 : fromUs + easedUs, area },
      ...(isLast && endUs < stepUs
        ? [
            { atUs: endUs - easedUs, area },
            { atUs: endUs, area: WHOLE },
          ]
        : [{ atUs: endUs, area }]),
    ];
  });
}

/** Slow at both ends: 3x² − 2x³. @param x 0…1 */
export const eased = (x: number): number => x * x * (3 - 2 * x);

/** The area of the screen that fills its place at a time. @param keys as `views` gives them */
export function viewAt(keys: readonly View[], atUs: number): Area {
  const next = keys.findIndex((key) => key.atUs > atUs);
  const [from, to] = [keys[next < 0 ? keys.length - 1 : next - 1], keys[next]];
  if (!from || !to) return from?.area ?? WHOLE;
  const share = eased((atUs - from.atUs) / (to.atUs - from.atUs));
  const between = (key: keyof Area) => from.area[key] + (to.area[key] - from.area[key]) * share;
  return { x: between('x'), y: between('y'), width: between('width'), height: between('height') };
}

/** An area in whole, even pixels that hold all of it: the smallest step of a picture with half as many colour samples. */
export function evenRect({ x, y, width, height }: Area, size: Size): Rect {
  const down = (value: number) => 2 * Math.floor(value / 2 + 1e-6);
  const up = (value: number) => 2 * Math.ceil(value / 2 - 1e-6);
  const [left, top] = [down(x * size.width), down(y * size.height)];
  const right = Math.min(down(size.width), up((x + width) * size.width));
  const bottom = Math.min(down(size.height), up((y + height) * size.height));
  return { x: left, y: top, width: Math.max(2, right - left), height: Math.max(2, bottom - top) };
}

/** Views whose areas are of whole, even pixels of a screen: a zoom that does not move is an exact crop. */
export const alignedViews = (views: readonly View[], size: Size): View[] =>
  views.map(({ atUs, area }) => {
    const { x, y, width, height } = evenRect(area, size);
    return {
      atUs,
      area: {
        ...{ x: x / size.width, y: y / size.height },
        ...{ width: width / size.width, height: height / size.height },
      },
    };
  });

/** Nothing that is lower than this is read in a blurred area: a line of text is about as high. */
const LEAST_CELL = 16;
/** Cells across the shorter side of a blurred area. */
const CELLS = 3;

/** How few pixels are left of a blurred area. Text in it has two or three of them in its height at most, whatever its size. */
export function blurredSize({ width, height }: Size): Size {
  const cell = Math.max(LEAST_CELL, Math.min(width, height) / CELLS);
  const cells = (length: number) => Math.max(2, 2 * Math.round(length / cell / 2));
  return { width: cells(width), height: cells(height) };
}
