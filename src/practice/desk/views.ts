import type { Size } from '@/core/base/sizes';
import type { Box } from '../i420';
import { deskAt, pointerAt } from '../script';
import { type Pen, rounded, sprite, write } from '../sprites';
import type { Item } from '../stage';
import {
  ARRANGED,
  type Arrangement,
  DISPLAYS,
  type DisplayId,
  displayOf,
  PROGRAM_NAMES,
  PROGRAMS,
  type Program,
  SHELF_HEIGHT,
  STANDS_ON,
} from './arrangement';
import { bedPlanner } from './bed-planner';
import { germinationLog, germinationLogPopUps } from './germination-log';
import { labelSheet, labelSheetPopUps } from './label-sheet';
import { packetRegister, packetRegisterPopUps } from './packet-register';
import { item, placed, TITLE_HEIGHT } from './window';

/** What can be captured of the practice desk. A tab is what a window shows of a page, without its frame. */
export const VIEWS = {
  desk: { what: 'display', display: 'desk' },
  'desk-2': { what: 'display', display: 'desk-2' },
  'window-register': { what: 'window', program: 'register' },
  'window-planner': { what: 'window', program: 'planner' },
  'window-log': { what: 'window', program: 'log' },
  'window-labels': { what: 'window', program: 'labels' },
  'tab-log': { what: 'tab', program: 'log' },
} as const satisfies Record<
  string,
  { what: 'display'; display: DisplayId } | { what: 'window' | 'tab'; program: Program }
>;
export type View = keyof typeof VIEWS;
export const isView = (id: string): id is View => Object.hasOwn(VIEWS, id);

type Draw = (t: number, size: Size) => Item[];
const DRAWN: Record<Program, { items: Draw; popUps: Draw }> = {
  register: { items: packetRegister, popUps: packetRegisterPopUps },
  log: { items: germinationLog, popUps: germinationLogPopUps },
  planner: { items: bedPlanner, popUps: () => [] },
  labels: { items: labelSheet, popUps: labelSheetPopUps },
};
const NOTICE: Size = { width: 440, height: 116 };
const POINTER: Size = { width: 28, height: 40 };

/** The part of a display that a view shows. */
export function viewBox(view: View, arrangement: Arrangement): Box {
  const seen = VIEWS[view];
  if (seen.what === 'display') return { x: 0, y: 0, ...DISPLAYS[seen.display] };
  const { x, y, width, height } = arrangement[seen.program];
  return seen.what === 'window'
    ? { x, y, width, height }
    : { x, y: y + TITLE_HEIGHT, width, height: height - TITLE_HEIGHT };
}

export const viewDisplay = (view: View): DisplayId => {
  const seen = VIEWS[view];
  return seen.what === 'display' ? seen.display : displayOf(seen.program);
};

/** Windows that stand in a view, in its pixels; none where it shows a window alone. */
export function windowsIn(view: View, arrangement: Arrangement): { program: Program; box: Box }[] {
  const seen = VIEWS[view];
  if (seen.what !== 'display') return [];
  return STANDS_ON[seen.display].map((program) => ({ program, box: arrangement[program] }));
}

/** The script's hand works in Packet Register: where its window goes, the pointer goes. */
const handShift = ({ register }: Arrangement) => ({
  x: register.x - ARRANGED.register.x,
  y: register.y - ARRANGED.register.y,
});

/**
 * What turns the script's pointer into a place in a view.
 * @returns null where the view shows another display
 */
export function pointerShift(view: View, arrangement: Arrangement): { x: number; y: number } | null {
  if (viewDisplay(view) !== 'desk') return null;
  const [hand, box] = [handShift(arrangement), viewBox(view, arrangement)];
  return { x: hand.x - box.x, y: hand.y - box.y };
}

/** Pop-ups of a window that the system puts over everything: seen in its display, missing where the window alone is captured. */
export const popUpsOf = (program: Program, t: number, { [program]: size }: Arrangement): Item[] =>
  DRAWN[program].popUps(t, size);

/** What each program opens outside its window, in a teacher's words. */
const OUTSIDE: Record<Program, string[]> = {
  register: ['its dialog', 'the notes that it proposes'],
  log: ['its list of varieties'],
  planner: [],
  labels: ['its inks'],
};

/** What is missing where a window alone is captured, and where it is all to be seen; null where nothing is. */
export function outsideOf(view: View, arrangement: Arrangement) {
  const seen = VIEWS[view];
  if (seen.what === 'display' || OUTSIDE[seen.program].length === 0) return null;
  return {
    of: view,
    names: OUTSIDE[seen.program],
    instead: { display: displayOf(seen.program), region: arrangement[seen.program] },
  };
}

/** What a view shows at a time, bottom first. Pure but for the cache of drawn text. */
export function viewItems(view: View, ms: number, arrangement: Arrangement): Item[] {
  const t = ((ms % 60_000) + 60_000) % 60_000;
  const [seen, box] = [VIEWS[view], viewBox(view, arrangement)];
  const inView = { x: 0, y: 0, width: box.width, height: box.height };
  const shift = pointerShift(view, arrangement);
  const at = pointerAt(t);
  const hand = shift
    ? [item('pointer', { x: at.x + shift.x, y: at.y + shift.y, ...POINTER }, pointer())]
    : [];
  if (seen.what !== 'display') {
    const size = arrangement[seen.program];
    const up = seen.what === 'tab' ? -TITLE_HEIGHT : 0;
    const own = DRAWN[seen.program].items(t, size);
    return [
      ...placed(own, { x: 0, y: up }, inView, seen.program),
      ...placed(hand, { x: 0, y: 0 }, inView, ''),
    ];
  }
  const windows = STANDS_ON[seen.display].flatMap((program) => {
    const window = arrangement[program];
    return placed(DRAWN[program].items(t, window), window, window, program);
  });
  const above = STANDS_ON[seen.display].flatMap((program) =>
    placed(popUpsOf(program, t, arrangement), arrangement[program], inView, program),
  );
  const { notice } = deskAt(t);
  const x = box.width - 2 * Math.round((notice * (NOTICE.width + 40)) / 2);
  const told =
    seen.display === 'desk' && notice > 0 ? [item('notice', { x, y: 60, ...NOTICE }, noticed())] : [];
  return [
    item(`ground ${seen.display}`, inView, ground(seen.display)),
    ...windows,
    ...placed([...above, ...told, ...hand], { x: 0, y: 0 }, inView, ''),
  ];
}

function ground(display: DisplayId) {
  const { width, height } = DISPLAYS[display];
  return sprite(`ground ${display}`, width, height, true, (pen) => {
    const fade = pen.createLinearGradient(0, 0, width, height);
    fade.addColorStop(0, '#c9dccf');
    fade.addColorStop(1, '#8fb0a6');
    pen.fillStyle = fade;
    pen.fillRect(0, 0, width, height);
    pen.fillStyle = '#17292b';
    pen.fillRect(0, height - SHELF_HEIGHT, width, SHELF_HEIGHT);
    PROGRAMS.forEach((program, i) => {
      const here = displayOf(program) === display;
      const [left, top] = [24 + i * 210, height - SHELF_HEIGHT + 8];
      rounded(pen, left, top, 196, 32, 8, here ? '#2f5a57' : '#223a3b');
      write(pen, PROGRAM_NAMES[program], left + 16, top + 23, 19, '#eef3ec', 550);
    });
  });
}

function noticed() {
  return sprite('notice', NOTICE.width, NOTICE.height, false, (pen) => {
    rounded(pen, 0, 0, NOTICE.width, NOTICE.height, 14, '#17292b');
    write(pen, 'Germination Log', 24, 44, 21, '#b3d07d', 650);
    write(pen, 'Kale, Saltmarsh: count the seedlings today', 24, 80, 20, '#eef3ec');
  });
}

function pointer() {
  return sprite('pointer', POINTER.width, POINTER.height, false, (pen: Pen) => {
    const path = new Path2D('M3 2v28l7-6 5 11 5-2-5-11 9-1Z');
    pen.fillStyle = '#17292b';
    pen.fill(path);
    pen.strokeStyle = '#ffffff';
    pen.lineWidth = 2;
    pen.stroke(path);
  });
}
