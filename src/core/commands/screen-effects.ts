import type { Size } from '../base/sizes';
import { blurredSize, COVER_COLOUR, type Cover, evenRect } from '../cut/area';
import { isUnchanged, type Look, onYuv } from '../cut/looks';
import type { Shot } from '../deliver/shot';
import { fixed } from './fixed';
import { seconds } from './seconds';
import { zoomChains } from './zoom-chains';

/**
 * The effects of a step on its screen, before the layout: covers, then zooms, then brightness and
 * colours. In this order, so that a zoom shows no more of a covered area.
 * @param from a chain that ends with the screen's pictures, without a label
 * @param name what the labels in between begin with
 * @returns chains; the last one has no label yet
 */
export function screenEffects(
  from: string,
  { covers, views, looks, rate, frames }: Shot,
  size: Size,
  name: string,
): string[] {
  const chains: string[] = [];
  let last = from;
  for (const [i, cover] of covers.entries()) {
    const at = evenRect(cover.area, size);
    if (cover.kind === 'colour') {
      const box = `x=${at.x}:y=${at.y}:w=${at.width}:h=${at.height}`;
      const colour = COVER_COLOUR.replace('#', '0x');
      last += `,drawbox=${box}:color=${colour}:t=fill:enable='${shown(cover)}'`;
      continue;
    }
    const { width, height } = blurredSize(at);
    const coarse = `crop=${at.width}:${at.height}:${at.x}:${at.y},scale=${width}:${height}:flags=area,scale=${at.width}:${at.height}:flags=bilinear`;
    chains.push(
      `${last},split[${name}all${i}][${name}own${i}]`,
      `[${name}own${i}]${coarse}[${name}coarse${i}]`,
    );
    last = `[${name}all${i}][${name}coarse${i}]overlay=${at.x}:${at.y}:enable='${shown(cover)}'`;
  }
  const zoomed = zoomChains(last, views, frames, rate, size, name);
  const end = zoomed.pop() ?? last;
  return [...chains, ...zoomed, `${end}${lit(looks.screen)}`];
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
