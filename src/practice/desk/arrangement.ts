import { z } from 'zod';
import { evenDown, type Rect, type Size } from '@/core/base/sizes';

export type DisplayId = 'desk' | 'desk-2';
export const DISPLAYS: Record<DisplayId, Size> = {
  desk: { width: 1920, height: 1080 },
  'desk-2': { width: 1440, height: 900 },
};
/** Height of the row of programs at the lower edge of each display, which windows may cover. */
export const SHELF_HEIGHT = 48;

export const PROGRAMS = ['register', 'log', 'planner', 'labels'] as const;
export type Program = (typeof PROGRAMS)[number];
export const PROGRAM_NAMES: Record<Program, string> = {
  register: 'Packet Register',
  log: 'Germination Log',
  planner: 'Bed Planner',
  labels: 'Label Sheet',
};
/** On which display a program's window stands, the lower window first. */
export const STANDS_ON: Record<DisplayId, readonly Program[]> = {
  desk: ['log', 'register'],
  'desk-2': ['planner', 'labels'],
};
export const displayOf = (program: Program): DisplayId =>
  STANDS_ON.desk.includes(program) ? 'desk' : 'desk-2';

export const LEAST_WINDOW: Size = { width: 320, height: 240 };

const Box = z.object({ x: z.int(), y: z.int(), width: z.int(), height: z.int() });
/** Where each window stands on its display: even pixels, inside it. */
export const Arrangement = z.object({ register: Box, log: Box, planner: Box, labels: Box });
export type Arrangement = z.infer<typeof Arrangement>;

export const ARRANGED: Arrangement = {
  register: { x: 160, y: 90, width: 1600, height: 900 },
  log: { x: 720, y: 40, width: 1160, height: 720 },
  planner: { x: 60, y: 60, width: 960, height: 640 },
  labels: { x: 860, y: 330, width: 520, height: 480 },
};

/** A window's place brought inside its display, on even pixels, no smaller than a window can be. */
export function arranged(program: Program, wish: Rect): Rect {
  const display = DISPLAYS[displayOf(program)];
  const length = (value: number, least: number, most: number) =>
    evenDown(Math.min(most, Math.max(least, Math.round(value))));
  const width = length(wish.width, LEAST_WINDOW.width, display.width);
  const height = length(wish.height, LEAST_WINDOW.height, display.height);
  const place = (value: number, room: number) =>
    2 * Math.floor(Math.min(room, Math.max(0, Math.round(value))) / 2);
  return {
    x: place(wish.x, display.width - width),
    y: place(wish.y, display.height - height),
    width,
    height,
  };
}
