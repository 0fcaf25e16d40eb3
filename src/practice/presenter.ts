import { nearestEven } from '@/core/base/sizes';
import type { Sprite } from './i420';
import { sprite } from './sprites';
import type { Item } from './stage';

type Area = { width: number; height: number };

/** What stands behind a presenter: a plain room, or a wall in a colour that can be keyed out. */
export type Backdrop = 'room' | 'green-wall';

/** A drawn presenter who nods, blinks and speaks. Drawn for 640 × 360, scaled to the size. */
export function presenterItems(ms: number, area: Area, behind: Backdrop): Item[] {
  const t = ((ms % 60_000) + 60_000) % 60_000;
  const scale = area.height / 360;
  const even = (v: number) => nearestEven(v * scale);
  const nod = Math.round(2 * Math.sin(t / 700) + 2 * Math.sin(t / 270));
  const sway = Math.round(3 * Math.sin(t / 1900));
  const at = { x: even(230 + sway), y: even(60 + nod) };
  const blink = t % 3700 < 140;
  // Lips change eight times per second, and rest at the end of a phrase.
  const beat = Math.floor(t / 125);
  const open = beat % 24 > 19 ? 0 : (beat * 7919 + (beat >> 2) * 31) % 3;
  const head = { width: even(180), height: even(200) };
  return [
    { key: behind, box: { x: 0, y: 0, ...area }, sprite: backdrop(area, scale, behind) },
    { key: `head ${blink} ${open}`, box: { ...at, ...head }, sprite: face(head, scale, blink, open) },
  ];
}

/** A lime-washed wall with a window, a shelf of seed jars, and a skirting board. */
function room(pen: OffscreenCanvasRenderingContext2D, width: number): void {
  const fill = (colour: string, x: number, y: number, w: number, h: number) => {
    pen.fillStyle = colour;
    pen.fillRect(x, y, w, h);
  };
  fill('#d8cdb8', 0, 0, width, 360);
  fill('#c6b99f', 0, 318, width, 42);
  fill('#8f8468', 36, 40, 148, 176);
  fill('#b9d3d6', 46, 50, 128, 156);
  fill('#9db98f', 46, 150, 128, 56);
  fill('#8f8468', 106, 50, 8, 156);
  fill('#8f8468', 46, 120, 128, 8);
  fill('#7d6748', width - 190, 128, 158, 10);
  for (const [i, colour] of ['#a65d3f', '#5c7a4a', '#c59a3d', '#4f6f7c'].entries())
    fill(colour, width - 180 + i * 38, 84, 28, 44);
}

function backdrop(area: Area, scale: number, behind: Backdrop): Sprite {
  return sprite(`${behind} ${area.width}`, area.width, area.height, true, (pen) => {
    pen.fillStyle = '#3fae62';
    pen.fillRect(0, 0, area.width, area.height);
    pen.scale(scale, scale);
    if (behind === 'room') room(pen, area.width / scale);
    pen.fillStyle = '#7a4a72';
    pen.fill(new Path2D('M120 360c6-92 80-124 200-124s194 32 200 124Z'));
    pen.fillStyle = '#5d3757';
    pen.fill(new Path2D('M262 240c20 30 96 30 116 0l-14-8H276Z'));
    pen.fillStyle = '#74482f';
    pen.fill(new Path2D('M282 190h76v52q-38 34-76 0Z'));
  });
}

function face(size: Area, scale: number, blink: boolean, open: number): Sprite {
  return sprite(`face ${size.width} ${blink} ${open}`, size.width, size.height, false, (pen) => {
    pen.scale(scale, scale);
    const fill = (colour: string, path: string) => {
      pen.fillStyle = colour;
      pen.fill(new Path2D(path));
    };
    fill('#8a5a3c', 'M90 14c42 0 62 32 62 78 0 50-26 88-62 88s-62-38-62-88c0-46 20-78 62-78Z');
    fill('#2b1d17', 'M22 104C8 38 44 6 92 6s82 32 66 98c-8-36-22-50-40-54-30 14-76 8-96 54Z');
    pen.strokeStyle = '#17292b';
    pen.lineWidth = 4;
    pen.lineCap = 'round';
    for (const x of [66, 116]) {
      if (blink) pen.stroke(new Path2D(`M${x - 7} 94h14`));
      else fill('#17292b', `M${x} 86a6 8 0 1 0 .1 0Z`);
    }
    if (open === 0) pen.stroke(new Path2D('M72 136c10 9 28 9 38 0'));
    else fill('#4a1f1c', `M72 132c10 ${open * 14} 28 ${open * 14} 38 0q-19 ${-2 - open * 2}-38 0Z`);
  });
}
