import type { Rect, Size } from '../base/sizes';
import type { Fitted } from './fit';

/** A source in cells, and in each how often something has changed there lately. */
export type Activity = { columns: number; rows: number; changes: readonly number[]; looks: number };

export const COLUMNS = 32;
export const ROWS = 18;
/** Of a cell's mean brightness: less is noise. */
const CHANGED = 1.5;
/** Older changes count less with every look, so that the last minute or so is what counts. */
const KEPT = 0.98;

export const NO_ACTIVITY: Activity = {
  columns: COLUMNS,
  rows: ROWS,
  changes: Array(COLUMNS * ROWS).fill(0),
  looks: 0,
};

/** Mean brightness of each cell, from every fourth pixel of every fourth row. */
export function cellsOf(luma: Uint8Array, { width, height }: Size, stride = width): Float32Array {
  const [sums, counts] = [new Float32Array(COLUMNS * ROWS), new Uint32Array(COLUMNS * ROWS)];
  for (let y = 0; y < height; y += 4) {
    const row = Math.floor((y * ROWS) / height) * COLUMNS;
    for (let x = 0; x < width; x += 4) {
      const cell = row + Math.floor((x * COLUMNS) / width);
      (sums[cell] as number) += luma[y * stride + x] as number;
      (counts[cell] as number)++;
    }
  }
  return sums.map((sum, i) => sum / Math.max(1, counts[i] as number));
}

/** One more look: cells whose brightness is another one have changed. */
export function looked(activity: Activity, before: Float32Array, now: Float32Array): Activity {
  return {
    ...activity,
    changes: activity.changes.map(
      (count, i) => KEPT * count + Number(Math.abs((now[i] ?? 0) - (before[i] ?? 0)) > CHANGED),
    ),
    looks: activity.looks + 1,
  };
}

/**
 * How much of what changes in a picture lies under a part of it.
 * @param at in the picture's pixels
 * @returns 0 … 1; 0 where nothing changes
 */
export function shareUnder(activity: Activity, source: Size, fit: Fitted, at: Rect): number {
  let [under, all] = [0, 0];
  activity.changes.forEach((count, i) => {
    // The middle of a cell, from the source into the picture.
    const [column, row] = [i % activity.columns, Math.floor(i / activity.columns)];
    const sx = ((column + 0.5) * source.width) / activity.columns;
    const sy = ((row + 0.5) * source.height) / activity.rows;
    const x = fit.at.x + ((sx - fit.crop.x) * fit.at.width) / fit.crop.width;
    const y = fit.at.y + ((sy - fit.crop.y) * fit.at.height) / fit.crop.height;
    if (x < fit.at.x || y < fit.at.y || x >= fit.at.x + fit.at.width || y >= fit.at.y + fit.at.height) return;
    all += count;
    if (x >= at.x && x < at.x + at.width && y >= at.y && y < at.y + at.height) under += count;
  });
  return all > 0 ? under / all : 0;
}
