import { scaleLinear } from 'd3-scale';
import { WARM_UP_US } from '@/core/rehearsal/figures';
import { type ShownFate, shownFate } from '@/core/rehearsal/frame-text';
import { budgetMs, type FrameMark, type RehearsalTrace, workMs } from '@/core/rehearsal/frame-trace';
import type { StripWindow } from '@/core/rehearsal/strip-window';

const FONT = '"Atkinson Hyperlegible Next Variable", sans-serif';
const WARM_UP = 'warm-up';

/** Heights of the strip's parts, px. */
export const STRIP = { height: 196, top: 18, ground: 168, axis: 182 };

const GROUND = STRIP.ground;

type Colours = Record<'river' | 'amber' | 'clay' | 'ink' | 'ink-2' | 'ink-3' | 'sunken' | 'paper', string>;

/** The theme's colours, which a canvas does not know by name. */
export function coloursOf(element: Element): Colours {
  const style = getComputedStyle(element);
  const names = ['river', 'amber', 'clay', 'ink', 'ink-2', 'ink-3', 'sunken', 'paper'] as const;
  return Object.fromEntries(
    names.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]),
  ) as Colours;
}

export type Strip = {
  trace: RehearsalTrace;
  frames: readonly FrameMark[];
  window: StripWindow;
  selected: number;
  width: number;
};

/** Where times and milliseconds are on the strip. */
export function stripScales({ trace, frames, window, width }: Omit<Strip, 'selected'>) {
  const budget = budgetMs(trace);
  const most = Math.max(budget * 1.6, ...frames.map(workMs));
  return {
    x: scaleLinear([window.fromUs, window.toUs], [4, width - 4]),
    // Nothing is taller than three budgets: what took longer is cut off, and its figure says how long.
    y: scaleLinear([0, Math.min(most, 3 * budget)], [STRIP.ground, STRIP.top]).clamp(true),
    budget,
  };
}

/** Draws every frame in the window: one mark each, its height the time that was worked on it. */
export function drawStrip(pen: CanvasRenderingContext2D, strip: Strip, colours: Colours): void {
  const { trace, frames, window, selected, width } = strip;
  const { x, y, budget } = stripScales(strip);
  pen.clearRect(0, 0, width, STRIP.height);
  drawWarmUp(pen, x, colours);
  drawSpells(pen, trace, x, colours);
  const step = x(window.fromUs + budget * 1000) - x(window.fromUs);
  const thick = Math.max(1, Math.min(9, step * 0.7));
  const marks = new Map<ShownFate, Map<number, Mark>>();
  for (const frame of frames) {
    if (frame.tUs < window.fromUs - 1e5 || frame.tUs > window.toUs + 1e5) continue;
    const fate = shownFate(frame, budget);
    const columns = marks.get(fate) ?? new Map<number, Mark>();
    marks.set(fate, columns);
    // Of several frames in one column of pixels the highest is seen.
    const column = Math.round(x(frame.tUs));
    const mark = { x: step < 1 ? column : x(frame.tUs), y: y(workMs(frame)), thick };
    if (mark.y <= (columns.get(column)?.y ?? Number.POSITIVE_INFINITY)) columns.set(column, mark);
  }
  drawMarks(pen, marks, colours);
  drawBudget(pen, y(budget), budget, width, colours);
  drawAxis(pen, x, width, colours);
  const frame = frames[selected];
  if (!frame) return;
  pen.strokeStyle = colours.ink;
  pen.fillStyle = colours.ink;
  pen.lineWidth = 2;
  const at = x(frame.tUs);
  pen.strokeRect(at - thick / 2 - 2.5, 2, thick + 5, STRIP.ground);
  pen.beginPath();
  pen.moveTo(at - 6, STRIP.ground + 11);
  pen.lineTo(at, STRIP.ground + 3);
  pen.lineTo(at + 6, STRIP.ground + 11);
  pen.fill();
}

/** A mark of one frame: where it is, how high its work reaches, how thick it is. */
type Mark = { x: number; y: number; thick: number };

type Look = { colour: keyof Colours; draw: (pen: CanvasRenderingContext2D, mark: Mark) => void };

/** What the marks of one fate look like: told by shape as well as by colour. Lines only add to the pen's path, which is stroked at once. */
const LOOKS: Record<ShownFate, Look> = {
  'on-time': {
    colour: 'river',
    draw: (pen, { x, y, thick }) => {
      const top = Math.min(y, GROUND - 3);
      pen.fillRect(x - thick / 2, top, thick, GROUND - top);
    },
  },
  late: {
    colour: 'amber',
    draw: (pen, { x, y, thick }) => {
      pen.fillRect(x - thick / 2, y, thick, GROUND - y);
      // A shoulder.
      pen.fillRect(x - thick / 2 - 1.5, y, thick + 3, 2.5);
    },
  },
  unchanged: {
    colour: 'ink-3',
    draw: (pen, { x, thick }) => pen.fillRect(x - thick / 2, GROUND - 7, thick, 7),
  },
  skipped: {
    colour: 'ink-2',
    draw: (pen, { x, thick }) => pen.fillRect(x - thick / 2, GROUND - 2, thick, 2),
  },
  dropped: {
    colour: 'clay',
    draw: (pen, { x }) => {
      pen.moveTo(x - 3, 6);
      pen.lineTo(x + 3, 12);
      pen.moveTo(x + 3, 6);
      pen.lineTo(x - 3, 12);
      dashedStem(pen, x);
    },
  },
  missed: {
    colour: 'clay',
    draw: (pen, { x }) => {
      pen.moveTo(x + 3.5, 9);
      pen.arc(x, 9, 3.5, 0, 2 * Math.PI);
      dashedStem(pen, x);
    },
  },
};

/** Its dashes are parts of the path: a pen that dashes takes several times as long. */
function dashedStem(pen: CanvasRenderingContext2D, x: number): void {
  for (let y = 14; y < GROUND; y += 7) {
    pen.moveTo(x, y);
    pen.lineTo(x, Math.min(y + 4, GROUND));
  }
}

/** Fate by fate, so that the colour changes seldom: thousands of marks are drawn within a frame of the display. */
function drawMarks(
  pen: CanvasRenderingContext2D,
  marks: ReadonlyMap<ShownFate, ReadonlyMap<number, Mark>>,
  colours: Colours,
): void {
  pen.lineWidth = 1.6;
  for (const [fate, columns] of marks) {
    const { colour, draw } = LOOKS[fate];
    pen.strokeStyle = colours[colour];
    pen.fillStyle = colours[colour];
    pen.beginPath();
    for (const mark of columns.values()) draw(pen, mark);
    pen.stroke();
  }
}

/** The first second, which counts for nothing. */
function drawWarmUp(pen: CanvasRenderingContext2D, x: (us: number) => number, colours: Colours): void {
  const [from, to] = [x(0), x(WARM_UP_US)];
  if (to <= 0) return;
  pen.strokeStyle = colours['ink-3'];
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(to, STRIP.top);
  pen.lineTo(to, STRIP.ground);
  pen.stroke();
  pen.font = `450 13px ${FONT}`;
  const width = pen.measureText(WARM_UP).width;
  if (to - Math.max(0, from) < width + 12) return;
  pen.fillStyle = colours['ink-2'];
  pen.fillText(WARM_UP, to - width - 6, STRIP.top + 10);
}

/** Writes and tasks of the page that held the recorder up, as shaded stretches behind the frames. */
function drawSpells(
  pen: CanvasRenderingContext2D,
  trace: RehearsalTrace,
  x: (us: number) => number,
  colours: Colours,
): void {
  pen.fillStyle = colours.sunken;
  const long = trace.writes.filter(({ ms }) => ms > budgetMs(trace));
  for (const { atUs, ms } of [...long, ...trace.longTasks])
    pen.fillRect(x(atUs), STRIP.top, Math.max(1, x(atUs + ms * 1000) - x(atUs)), STRIP.ground - STRIP.top);
}

function drawBudget(
  pen: CanvasRenderingContext2D,
  y: number,
  budget: number,
  width: number,
  colours: Colours,
): void {
  pen.save();
  pen.strokeStyle = colours.ink;
  pen.lineWidth = 1.3;
  pen.setLineDash([6, 4]);
  pen.beginPath();
  pen.moveTo(0, y);
  pen.lineTo(width, y);
  pen.stroke();
  pen.restore();
  pen.font = `600 13px ${FONT}`;
  const text = `frame budget ${budget.toFixed(budget < 20 ? 1 : 0)} ms`;
  const at = width - pen.measureText(text).width - 6;
  pen.fillStyle = colours.paper;
  pen.fillRect(at - 4, y - 20, width - at + 4, 17);
  pen.fillStyle = colours.ink;
  pen.fillText(text, at, y - 7);
}

function drawAxis(
  pen: CanvasRenderingContext2D,
  x: ReturnType<typeof scaleLinear<number, number>>,
  width: number,
  colours: Colours,
): void {
  pen.strokeStyle = colours['ink-3'];
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(0, STRIP.ground + 0.5);
  pen.lineTo(width, STRIP.ground + 0.5);
  pen.stroke();
  pen.font = `450 13px ${FONT}`;
  pen.fillStyle = colours['ink-2'];
  const seconds = x.copy().domain(x.domain().map((us) => us / 1e6));
  for (const s of seconds.ticks(10)) {
    const text = `${Number(s.toFixed(2))} s`;
    const half = pen.measureText(text).width / 2;
    const at = Math.min(Math.max(seconds(s), half), width - half);
    pen.fillText(text, at - half, STRIP.axis + 12);
  }
}
