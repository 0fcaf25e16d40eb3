import { nearestEven } from '@/core/base/sizes';
/** The scripted minute of work on the practice desk: pure functions of time. All times in milliseconds. */

export const SCRIPT_MS = 60_000;

export type DeskEvent = {
  atMs: number;
  kind: 'pointer' | 'click' | 'key';
  data: Record<string, string | number>;
};

/** Where the pointer rests: it glides to each place and is there at `atMs`. Display pixels. */
const POINTER: readonly { atMs: number; x: number; y: number }[] = [
  { atMs: 0, x: 1200, y: 800 },
  { atMs: 1500, x: 420, y: 216 },
  { atMs: 6500, x: 420, y: 216 },
  { atMs: 8500, x: 640, y: 470 },
  { atMs: 10_500, x: 900, y: 640 },
  { atMs: 21_000, x: 900, y: 640 },
  { atMs: 22_500, x: 1320, y: 470 },
  { atMs: 25_000, x: 1010, y: 560 },
  { atMs: 28_000, x: 1010, y: 560 },
  { atMs: 30_000, x: 1120, y: 560 },
  { atMs: 34_000, x: 1250, y: 700 },
  { atMs: 38_000, x: 1500, y: 300 },
  { atMs: 44_500, x: 1700, y: 170 },
  { atMs: 47_000, x: 700, y: 900 },
  { atMs: 57_000, x: 700, y: 900 },
  { atMs: 60_000, x: 1200, y: 800 },
];

const CLICKS = [2000, 9000, 23_000, 28_500, 34_500, 44_800, 47_500];
const LOT = '0415';
const SEEDS = '58';
const NOTE = 'Opened on the twelfth, dry and clean. Keep until the spring sowing.';

const ease = (p: number) => (p <= 0 ? 0 : p >= 1 ? 1 : p * p * (3 - 2 * p));

/** Characters of a text that is typed at a steady pace from `fromMs`. */
const typed = (text: string, t: number, fromMs: number, everyMs: number) =>
  text.slice(0, Math.max(0, Math.min(text.length, Math.floor((t - fromMs) / everyMs) + 1)));

export function pointerAt(t: number): { x: number; y: number } {
  const next = POINTER.findIndex((p) => p.atMs > t);
  const to = POINTER[next === -1 ? POINTER.length - 1 : next];
  const from = POINTER[Math.max(0, (next === -1 ? POINTER.length : next) - 1)];
  if (!to || !from) return { x: 0, y: 0 };
  // The last second at most is spent moving: people look first, then reach.
  const span = Math.min(1000, to.atMs - from.atMs);
  const p = ease((t - (to.atMs - span)) / span);
  return { x: nearestEven(from.x + (to.x - from.x) * p), y: nearestEven(from.y + (to.y - from.y) * p) };
}

/** A place of the script in what is captured. */
export const shifted = <T extends { x: number; y: number }>(at: T, by: { x: number; y: number }): T => ({
  ...at,
  x: at.x + by.x,
  y: at.y + by.y,
});

export type DeskState = {
  pointer: { x: number; y: number };
  lot: string;
  lotFocused: boolean;
  caret: boolean;
  /** Row under work, or null. */
  selected: number | null;
  /** Pixels the list is scrolled by. */
  scroll: number;
  dialog: { seeds: string; marked: boolean } | null;
  checkedIn: boolean;
  /** 0 away … 1 fully in. */
  notice: number;
  note: string;
};

/** Everything the desk shows at a time. */
export function deskAt(ms: number): DeskState {
  const t = ((ms % SCRIPT_MS) + SCRIPT_MS) % SCRIPT_MS;
  const between = (from: number, to: number) => t >= from && t < to;
  const down = ease((t - 11_000) / 4000) - ease((t - 16_500) / 3500);
  const note = t >= 48_000 && t < 58_500 ? typed(NOTE, t, 48_000, 110) : '';
  return {
    pointer: pointerAt(t),
    lot: between(2000, 58_500) ? typed(LOT, t, 3000, 450) : '',
    lotFocused: between(2000, 9000),
    caret: Math.floor(t / 530) % 2 === 0,
    selected: between(9000, 58_500) ? 3 : null,
    scroll: nearestEven(down * 640),
    dialog: between(23_200, 34_700)
      ? { seeds: t < 28_500 ? '64' : typed(SEEDS, t, 29_500, 600) || '64', marked: between(28_500, 29_500) }
      : null,
    checkedIn: between(34_700, 58_500),
    notice: Math.round((ease((t - 38_000) / 500) - ease((t - 44_900) / 400)) * 50) / 50,
    note,
  };
}

/** What pointer and keys did in [fromMs, toMs); the pointer's path is sampled 20 times per second while it moves. */
export function deskEvents(fromMs: number, toMs: number): DeskEvent[] {
  const events: DeskEvent[] = [];
  const first = Math.floor(fromMs / SCRIPT_MS);
  for (let round = first; round * SCRIPT_MS < toMs; round++) {
    for (const event of SCRIPTED) {
      const atMs = event.atMs + round * SCRIPT_MS;
      if (atMs >= fromMs && atMs < toMs) events.push({ ...event, atMs });
    }
  }
  return events;
}

function keys(text: string, fromMs: number, everyMs: number): DeskEvent[] {
  return [...text].map((key, i) => ({ atMs: fromMs + i * everyMs, kind: 'key', data: { key } }));
}

const SCRIPTED: readonly DeskEvent[] = [
  ...Array.from({ length: SCRIPT_MS / 50 }, (_, i): DeskEvent | null => {
    const [now, before] = [pointerAt(i * 50), pointerAt(Math.max(0, i * 50 - 50))];
    const moved = i === 0 || now.x !== before.x || now.y !== before.y;
    return moved ? { atMs: i * 50, kind: 'pointer', data: now } : null;
  }).filter((event) => event !== null),
  ...CLICKS.map((atMs): DeskEvent => ({ atMs, kind: 'click', data: { ...pointerAt(atMs), button: 'left' } })),
  ...keys(LOT, 3000, 450),
  ...keys(SEEDS, 29_500, 600),
  ...keys(NOTE, 48_000, 110),
].sort((a, b) => a.atMs - b.atMs);

/** When programs make a sound, and which. */
export const PROGRAM_SOUNDS: readonly { atMs: number; kind: 'tick' | 'chime' | 'bell' }[] = [
  ...CLICKS.map((atMs) => ({ atMs, kind: 'tick' as const })),
  { atMs: 34_700, kind: 'chime' },
  { atMs: 38_000, kind: 'bell' },
];
