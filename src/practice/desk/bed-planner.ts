import { nearestEven, type Size } from '@/core/base/sizes';
import { rounded, sprite, write } from '../sprites';
import type { Item } from '../stage';
import { frame, INK, item, QUIET, TITLE_HEIGHT } from './window';

const BEDS = [
  { name: 'Squash', colour: '#d9a441' },
  { name: 'Kale', colour: '#6f8f3d' },
  { name: 'Runner bean', colour: '#a4583b' },
  { name: 'Leek', colour: '#5c86a3' },
  { name: 'Chard', colour: '#8c5a7c' },
] as const;
/** Places of the plan: three in a row, two rows; the last is empty at first. */
const PLACES = Array.from({ length: 6 }, (_, i) => ({
  x: 40 + (i % 3) * 250,
  y: 120 + Math.floor(i / 3) * 210,
}));
const ease = (p: number) => (p <= 0 ? 0 : p >= 1 ? 1 : p * p * (3 - 2 * p));

/** Beds of a garden in a drawing: one is drawn to the empty place and back, and the plan is looked at from nearer. */
export function bedPlanner(t: number, size: Size): Item[] {
  const near = t >= 15_000 && t < 22_000 ? 1.2 : 1;
  const moved = ease((t - 5000) / 2000) - ease((t - 40_000) / 2000);
  const [from, to] = [PLACES[0], PLACES[5]];
  const grid = sprite(`plan ${near}`, 940, 560, true, (pen) => {
    pen.fillStyle = '#f3efe0';
    pen.fillRect(0, 0, 940, 560);
    pen.fillStyle = '#dcd5bf';
    for (let x = 0; x < 940; x += 25 * near) pen.fillRect(Math.round(x), 0, 1, 560);
    for (let y = 0; y < 560; y += 25 * near) pen.fillRect(0, Math.round(y), 940, 1);
    write(pen, 'Rotation of next year, metres', 30, 40, 20, QUIET);
  });
  const beds = BEDS.map(({ name, colour }, i) => {
    const rest = PLACES[i] ?? { x: 0, y: 0 };
    const place =
      i === 0 && from && to
        ? { x: from.x + (to.x - from.x) * moved, y: from.y + (to.y - from.y) * moved }
        : rest;
    const [width, height] = [nearestEven(220 * near), nearestEven(180 * near)];
    const drawn = sprite(`bed ${name} ${near}`, width, height, false, (pen) => {
      rounded(pen, 2, 2, width - 4, height - 4, 16, colour, INK);
      write(pen, name, width / 2, height / 2 + 4, 22 * near, '#ffffff', 650, 'center');
      write(pen, '1.2 × 3.6', width / 2, height / 2 + 34 * near, 16 * near, '#ffffff', 450, 'center');
    });
    return item(
      `bed ${name} ${near}`,
      { x: nearestEven(place.x * near), y: nearestEven(place.y * near), width, height },
      drawn,
    );
  });
  // What is moved lies on top.
  const [first, ...others] = beds;
  return [
    ...frame('Bed Planner', size),
    item(`plan ${near}`, { x: 10, y: TITLE_HEIGHT + 10, width: 940, height: 560 }, grid),
    ...others,
    ...(first ? [first] : []),
  ];
}
