import { type FrameRate, frameTimeUs } from '../base/rational';
import { sameValue } from '../base/same-value';
import type { Size } from '../base/sizes';
import { type Area, alignedViews, evenRect, type View, viewAt, WHOLE } from '../cut/area';
import { fixed } from './fixed';

/** Frames in a row that show one area, or over which the picture moves (`area` null). */
type Run = { from: number; to: number; area: Area | null };

/** The frames of a shot by what they show. A frame that moves alone is one that stands. */
function runs(views: readonly View[], frames: number, rate: FrameRate): Run[] {
  const areas = Array.from({ length: frames }, (_, n) => viewAt(views, frameTimeUs(n, rate)));
  const all: Run[] = [];
  areas.forEach((area, n) => {
    const stands =
      [areas[n - 1], areas[n + 1]].some((beside) => beside && sameValue(beside, area)) || frames === 1;
    const own = stands ? area : null;
    const last = all.at(-1);
    if (last && sameValue(last.area, own)) last.to = n + 1;
    else all.push({ from: n, to: n + 1, area: own });
  });
  return all;
}

/**
 * Zooms to the areas of the views. While the area does not move it is cropped and scaled; only while it moves is each pixel resampled at its
 * own place, which takes eight times as long.
 * @param from a chain that ends with all frames of the shot, without a label
 * @param name what the labels in between begin with
 * @returns chains; the last one has no label yet
 */
export function zoomChains(
  from: string,
  views: readonly View[],
  frames: number,
  rate: FrameRate,
  size: Size,
  name: string,
): string[] {
  const aligned = alignedViews(views, size);
  const all = runs(aligned, frames, rate);
  const [only] = all;
  if (all.length === 1 && only) return [`${from}${shown(only, aligned, rate, size)}`];
  const label = (what: string, n: number) => `[${name}${what}${n}]`;
  return [
    `${from},split=${all.length}${all.map((_, n) => label('at', n)).join('')}`,
    ...all.map((run, n) => {
      const own = `${label('at', n)}trim=start_frame=${run.from}:end_frame=${run.to},setpts=PTS-STARTPTS`;
      return `${own}${shown(run, aligned, rate, size)}${label('run', n)}`;
    }),
    `${all.map((_, n) => label('run', n)).join('')}concat=n=${all.length},setpts=round(N*${rate.den}/${rate.num}/TB)`,
  ];
}

function shown(run: Run, views: readonly View[], rate: FrameRate, size: Size): string {
  const { from, area } = run;
  if (!area) return moving(seenIn(run, views, rate), rate, from);
  if (sameValue(area, WHOLE)) return '';
  const { x, y, width, height } = evenRect(area, size);
  return `,crop=${width}:${height}:${x}:${y},scale=${size.width}:${size.height}:flags=bicubic,setsar=1`;
}

/** The views between which a run moves: with all of a long step's, the text would grow with their square. */
function seenIn({ from, to }: Run, views: readonly View[], rate: FrameRate): View[] {
  const begins = views.findLastIndex(({ atUs }) => atUs <= frameTimeUs(from, rate));
  const ends = views.findIndex(({ atUs }) => atUs >= frameTimeUs(to - 1, rate));
  return views.slice(Math.max(0, begins), ends < 0 ? undefined : ends + 1);
}

/** Moves from view to view. Pixels are counted from their middles. @param first number of the run's first frame */
function moving(views: readonly View[], rate: FrameRate, first: number): string {
  const along = (share: (area: Area) => number) => path(views, rate, first, share);
  const edge = (side: 'W' | 'H', place: (area: Area) => number, length: (area: Area) => number) =>
    `${side}*${along(place)}+${along((area) => (length(area) - 1) / 2)}`;
  const [width, height] = [(area: Area) => area.width, (area: Area) => area.height];
  const left = edge('W', ({ x }) => x, width);
  const right = edge('W', (area) => area.x + area.width, width);
  const top = edge('H', ({ y }) => y, height);
  const bottom = edge('H', (area) => area.y + area.height, height);
  const corners = [left, top, right, top, left, bottom, right, bottom];
  const names = ['x0', 'y0', 'x1', 'y1', 'x2', 'y2', 'x3', 'y3'];
  return `,perspective=${names.map((name, i) => `${name}='${corners[i]}'`).join(':')}:interpolation=cubic:eval=frame`;
}

/** A share of the picture as an expression over frames: `3x² − 2x³` between two views, as `eased` has it. */
function path(views: readonly View[], rate: FrameRate, first: number, share: (area: Area) => number): string {
  const frame = (us: number) => fixed((us * rate.num) / (rate.den * 1e6));
  // The filter counts frames from 1 on.
  const now = `(in-1+${first})`;
  return views.reduceRight(
    (later, { atUs, area }, i) => {
      const before = views[i - 1];
      const end = share(area);
      const begin = before ? share(before.area) : end;
      if (!before || fixed(begin) === fixed(end))
        return `if(lt(${now},${frame(atUs)}),${fixed(begin)},${later})`;
      const passed = `(${now}-${frame(before.atUs)})/${frame(atUs - before.atUs)}`;
      const way = `(st(0,${passed})*0+${fixed(begin)}+${fixed(end - begin)}*ld(0)*ld(0)*(3-2*ld(0)))`;
      return `if(lt(${now},${frame(atUs)}),${way},${later})`;
    },
    fixed(share(views.at(-1)?.area ?? WHOLE)),
  );
}
