import type { Size } from '@/core/base/sizes';
import type { Box } from '../i420';
import { rounded, sprite, write } from '../sprites';
import type { Item } from '../stage';
import { frame, INK, item, patch, QUIET, TITLE_HEIGHT } from './window';

const DAYS = 20;
/** Seedlings of a day, counted so far every three seconds. */
const counted = (day: number) => 12 + ((day * 47) % 61) + day * 4;
const CHART: Box = { x: 80, y: TITLE_HEIGHT + 96, width: 1000, height: 420 };

/** Charts of seedlings over a ground that grows lighter: gradients are what coarse encoders break first. */
export function germinationLog(t: number, size: Size): Item[] {
  const days = Math.min(DAYS, 1 + Math.floor(t / 3000));
  const ground = sprite('log ground', 1160, 640, true, (pen) => {
    const fade = pen.createLinearGradient(0, 0, 1160, 640);
    fade.addColorStop(0, '#f4f1e2');
    fade.addColorStop(0.6, '#d5e4d2');
    fade.addColorStop(1, '#a9cbc3');
    pen.fillStyle = fade;
    pen.fillRect(0, 0, 1160, 640);
    write(pen, 'Kale, Saltmarsh: seedlings counted', 40, 56, 26, INK, 650);
    for (let line = 0; line <= 4; line++) {
      pen.fillStyle = '#8aa59d';
      pen.fillRect(CHART.x, 96 + line * 105, CHART.width, 2);
      write(pen, String(160 - line * 40), CHART.x - 16, 103 + line * 105, 18, QUIET, 450, 'right');
    }
    for (let day = 0; day < DAYS; day++)
      write(pen, String(day + 1), CHART.x + 25 + day * 50, 548, 17, QUIET, 450, 'center');
    write(pen, 'Day after sowing', CHART.x + CHART.width, 590, 19, QUIET, 450, 'right');
  });
  const bars = Array.from({ length: days }, (_, day) => {
    const height = 2 * Math.round((counted(day) * 2.6) / 2);
    const box = { x: CHART.x + 8 + day * 50, y: CHART.y + CHART.height - height, width: 34, height };
    const newest = day === days - 1;
    return patch(`bar ${day} ${newest}`, box, newest ? '#a4583b' : '#4d6a22');
  });
  return [
    ...frame('Germination Log', size),
    item('ground', { x: 0, y: TITLE_HEIGHT, width: 1160, height: 640 }, ground),
    ...bars,
  ];
}

/** A list to choose the variety from: the system opens it over whatever lies there, also beyond the window. */
export function germinationLogPopUps(t: number, { height }: Size): Item[] {
  if (t < 25_000 || t >= 29_000) return [];
  const names = ['Kale, Saltmarsh', 'Chard, Copper Stair', 'Leek, Winter Post', 'Pea, Long Friday'];
  const chosen = Math.floor((t - 25_000) / 1000);
  const list = sprite(`varieties ${chosen}`, 320, 176, true, (pen) => {
    pen.fillStyle = '#ffffff';
    pen.fillRect(0, 0, 320, 176);
    names.forEach((name, i) => {
      if (i === chosen) rounded(pen, 4, 4 + i * 42, 312, 42, 6, '#cfe3dd');
      write(pen, name, 20, 32 + i * 42, 20, INK);
    });
  });
  return [item(`varieties ${chosen}`, { x: 40, y: height - 60, width: 320, height: 176 }, list)];
}
