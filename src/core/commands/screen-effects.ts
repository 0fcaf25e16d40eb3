import type { FrameRate } from '../base/rational';
import type { Size } from '../base/sizes';
import { type Area, blurredSize, COVER_COLOUR, type Cover, evenRect, type View } from '../cut/area';
import { isUnchanged, type Look, onYuv } from '../cut/looks';
import type { Shot } from '../deliver/shot';
import { seconds } from './seconds';

/**
 * What is done to the pictures of a screen before they are laid out: what nobody may see is covered, then an area is zoomed to, then
 * brightness and colours change. In this order, so that a zoom shows no more of a covered area.
 * @param from a chain that ends with the screen's pictures, without a label
 * @param name what the labels in between begin with
 * @returns chains; the last one has no label yet
 */
export function screenEffects(
  from: string,
  { covers, views, looks, rate }: Shot,
  size: Size,
  name: string,
): string[] {
  const chains: string[] = [];
  let last = from;
  for (const [i, cover] of covers.entries()) {
    const at = evenRect(cover.area, size);
    const place = `${at.width}:${at.height}:${at.x}:${at.y}`;
    if (cover.kind === 'colour') {
      const [width, height, x, y] = place.split(':');
      last += `,drawbox=x=${x}:y=${y}:w=${width}:h=${height}:color=${COVER_COLOUR.replace('#', '0x')}:t=fill:enable='${shown(cover)}'`;
      continue;
    }
    const { width, height } = blurredSize(at);
    const coarse = `crop=${place},scale=${width}:${height}:flags=area,scale=${at.width}:${at.height}:flags=bilinear`;
    chains.push(
      `${last},split[${name}all${i}][${name}own${i}]`,
      `[${name}own${i}]${coarse}[${name}coarse${i}]`,
    );
    last = `[${name}all${i}][${name}coarse${i}]overlay=${at.x}:${at.y}:enable='${shown(cover)}'`;
  }
  return [...chains, `${last}${zoomed(views, rate)}${lit(looks.screen)}`];
}

/** As the player takes it: the first instant belongs to it, the last one does not. */
const shown = ({ fromUs, toUs }: Cover): string => `gte(t,${seconds(fromUs)})*lt(t,${seconds(toUs)})`;

/** How a picture is lit, on its brightness and colour differences in the range of television (16…235, 16…240). */
export function lit(look: Look): string {
  if (isUnchanged(look)) return '';
  const { yGain, yOffset, cGain } = onYuv(look);
  const colour = `clip(128+(val-128)*${fixed(cGain)},16,240)`;
  return `,lutyuv=y='clip(16+(val-16)*${fixed(yGain)}+219*${fixed(yOffset)},16,235)':u='${colour}':v='${colour}'`;
}

const fixed = (value: number): string => value.toFixed(6).replace(/\.?0+$/, '');

/** An area of the picture in all of it, moving from view to view. Pixels are counted from their middles. */
function zoomed(views: readonly View[], rate: FrameRate): string {
  if (views.every(({ area }) => isWhole(area))) return '';
  const x = (share: (area: Area) => number) =>
    `W*${along(views, rate, share)}+${along(views, rate, (area) => (area.width - 1) / 2)}`;
  const y = (share: (area: Area) => number) =>
    `H*${along(views, rate, share)}+${along(views, rate, (area) => (area.height - 1) / 2)}`;
  const [left, right] = [x((area) => area.x), x((area) => area.x + area.width)];
  const [top, bottom] = [y((area) => area.y), y((area) => area.y + area.height)];
  const corners = `x0='${left}':y0='${top}':x1='${right}':y1='${top}':x2='${left}':y2='${bottom}':x3='${right}':y3='${bottom}'`;
  return `,perspective=${corners}:interpolation=cubic:eval=frame`;
}

const isWhole = ({ x, y, width, height }: Area): boolean => x === 0 && y === 0 && width === 1 && height === 1;

/** Keyframes farther away than the nearest on each side of this time say nothing of it. */
const FAR_US = 3_600_000_000;

/** A share of the picture as an expression over frames: `3x² − 2x³` between two views, as `eased` has it. */
function along(views: readonly View[], rate: FrameRate, share: (area: Area) => number): string {
  const frame = (us: number) =>
    fixed((Math.max(-FAR_US, Math.min(FAR_US, us)) * rate.num) / (rate.den * 1e6));
  // The filter counts frames from 1 on.
  const now = '(in-1)';
  return views.reduceRight(
    (later, { atUs, area }, i) => {
      const before = views[i - 1];
      const value = fixed(share(area));
      if (!before) return `if(lt(${now},${frame(atUs)}),${value},${later})`;
      const [from, length] = [frame(before.atUs), frame(atUs - before.atUs)];
      const start = fixed(share(before.area));
      if (start === value) return `if(lt(${now},${frame(atUs)}),${value},${later})`;
      const difference = fixed(share(area) - share(before.area));
      const way = `(st(0,(${now}-${from})/${length})*0+${start}+${difference}*ld(0)*ld(0)*(3-2*ld(0)))`;
      return `if(lt(${now},${frame(atUs)}),${way},${later})`;
    },
    fixed(share(views.at(-1)?.area ?? WHOLE_AREA)),
  );
}

const WHOLE_AREA: Area = { x: 0, y: 0, width: 1, height: 1 };
