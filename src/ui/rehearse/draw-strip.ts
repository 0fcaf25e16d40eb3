import { scaleLinear } from 'd3-scale';
import { WARM_UP_US } from '@/core/rehearsal/figures';
import { shownFate } from '@/core/rehearsal/frame-text';
import { budgetMs, type FrameMark, type RehearsalTrace, workMs } from '@/core/rehearsal/frame-trace';
import type { StripWindow } from '@/core/rehearsal/strip-window';

const FONT = '"Atkinson Hyperlegible Next Variable", sans-serif';
const WARM_UP = 'warm-up';

/** Heights of the strip's parts, px. */
export const STRIP = { height: 196, top: 18, ground: 168, axis: 182 };

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
  for (const frame of frames) {
    if (frame.tUs < window.fromUs - 1e5 || frame.tUs > window.toUs + 1e5) continue;
    drawFrame(pen, frame, x(frame.tUs), y(workMs(frame)), thick, budget, colours);
  }
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

function drawFrame(
  pen: CanvasRenderingContext2D,
  frame: FrameMark,
  x: number,
  y: number,
  thick: number,
  budget: number,
  colours: Colours,
): void {
  const { ground } = STRIP;
  switch (shownFate(frame, budget)) {
    case 'on-time':
      pen.fillStyle = colours.river;
      pen.fillRect(x - thick / 2, Math.min(y, ground - 3), thick, ground - Math.min(y, ground - 3));
      return;
    case 'late':
      pen.fillStyle = colours.amber;
      pen.fillRect(x - thick / 2, y, thick, ground - y);
      // A shoulder: late is told by shape as well.
      pen.fillRect(x - thick / 2 - 1.5, y, thick + 3, 2.5);
      return;
    case 'unchanged':
      pen.fillStyle = colours['ink-3'];
      pen.fillRect(x - thick / 2, ground - 7, thick, 7);
      return;
    case 'skipped':
      pen.fillStyle = colours['ink-2'];
      pen.fillRect(x - thick / 2, ground - 2, thick, 2);
      return;
    case 'dropped':
      pen.strokeStyle = colours.clay;
      pen.lineWidth = 1.6;
      pen.beginPath();
      pen.moveTo(x - 3, 6);
      pen.lineTo(x + 3, 12);
      pen.moveTo(x + 3, 6);
      pen.lineTo(x - 3, 12);
      pen.stroke();
      dashedStem(pen, x, 14);
      return;
    case 'missed':
      pen.strokeStyle = colours.clay;
      pen.lineWidth = 1.6;
      pen.beginPath();
      pen.arc(x, 9, 3.5, 0, 2 * Math.PI);
      pen.stroke();
      dashedStem(pen, x, 14);
  }
}

function dashedStem(pen: CanvasRenderingContext2D, x: number, from: number): void {
  pen.save();
  pen.setLineDash([4, 3]);
  pen.beginPath();
  pen.moveTo(x, from);
  pen.lineTo(x, STRIP.ground);
  pen.stroke();
  pen.restore();
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
