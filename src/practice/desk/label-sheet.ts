import type { Size } from '@/core/base/sizes';
import { rounded, sprite, write } from '../sprites';
import type { Item } from '../stage';
import { frame, item, TITLE_HEIGHT } from './window';

const LABELS = [
  ['Tin Lantern', '#b3261e', '#fff3ef'],
  ['Saltmarsh', '#1f6b45', '#eef7ee'],
  ['Painted Lark', '#6b3fa0', '#f5f0fb'],
  ['Grey Mouse', '#4a5568', '#f2f4f6'],
  ['Hollow Bell', '#9a5b00', '#fdf5e4'],
  ['Long Friday', '#0b6b8f', '#eaf6fa'],
  ['Copper Stair', '#a03b6b', '#fcf0f5'],
  ['Winter Post', '#2d4f9e', '#eef2fb'],
] as const;
const [WIDTH, HEIGHT] = [156, 92];

/** Labels with small text of many colours: what 4:2:0 costs is seen here first. */
export function labelSheet(t: number, size: Size): Item[] {
  const chosen = Math.floor(t / 2000) % 12;
  const labels = Array.from({ length: 12 }, (_, i) => {
    const [name, ink, ground] = LABELS[i % LABELS.length] ?? LABELS[0];
    const drawn = sprite(`label ${i} ${i === chosen}`, WIDTH, HEIGHT, true, (pen) => {
      pen.fillStyle = '#fffdf8';
      pen.fillRect(0, 0, WIDTH, HEIGHT);
      rounded(pen, 1, 1, WIDTH - 2, HEIGHT - 2, 6, ground, i === chosen ? '#17292b' : ink);
      write(pen, name, 12, 28, 15, ink, 650);
      write(pen, `Lot ${String(412 + i).padStart(4, '0')}`, 12, 48, 12, ink);
      write(pen, 'Sow in March, thin in May', 12, 64, 11, ink);
      write(pen, 'Keep dry and dark', 12, 79, 11, ink);
    });
    const at = { x: 12 + (i % 3) * 168, y: TITLE_HEIGHT + 12 + Math.floor(i / 3) * 102 };
    return item(`label ${i} ${i === chosen}`, { ...at, width: WIDTH, height: HEIGHT }, drawn);
  });
  return [...frame('Label Sheet', size), ...labels];
}

/** Inks to choose from, beside the window. */
export function labelSheetPopUps(t: number): Item[] {
  if (t < 30_000 || t >= 34_000) return [];
  const inks = sprite('inks', 120, 188, true, (pen) => {
    pen.fillStyle = '#ffffff';
    pen.fillRect(0, 0, 120, 188);
    LABELS.forEach(([, ink], i) => {
      rounded(pen, 12 + (i % 2) * 52, 12 + Math.floor(i / 2) * 42, 44, 34, 8, ink);
    });
  });
  return [item('inks', { x: -80, y: 120, width: 120, height: 188 }, inks)];
}
