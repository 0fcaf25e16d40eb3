import type { TakeId } from '@/core/base/ids';
import type { Problem } from '@/core/base/problem';
import { type Clocks, type Deadline, deadlineAt } from '@/core/recording/deadline';
import type { TakeEnd } from '@/core/recording/take';
import type { Figures, MediaRole } from './messages';
import type { Rehearsal, RehearsalProgress } from './rehearsal/rehearse';

/** What a session remembers beside the state that it is in. */
export type SessionContext = {
  /** The wall clock's time (ms since 1970) of the first instant: a countdown, or a time of day. */
  startAtMs: number;
  /** The first instant by the monotonic clock. A time of day is kept by the wall clock instead, which goes on while the machine sleeps. */
  startMonotonicMs: number;
  /** When the take ends automatically, or null. */
  stopAt: Deadline | null;
  /** It begins at a time of day, with nobody there. */
  scheduled: boolean;
  /** Seconds left before the first instant. */
  left: number;
  takeId: TakeId | null;
  figures: Figures | null;
  muted: boolean;
  problem: Problem | null;
  /** Why the take ended, when nobody pressed stop. */
  endedBy: string | null;
  end: TakeEnd | null;
  /** How far a rehearsal is; null while none runs. */
  rehearsing: RehearsalProgress | null;
  /** The newest rehearsal of this page. */
  rehearsal: Rehearsal | null;
};

export type SessionEvent =
  | { type: 'RECORD'; startAtMs: number; stopAtMs?: number | null; scheduled?: boolean }
  | { type: 'NOW' }
  | { type: 'CANCEL' }
  | { type: 'TICK' }
  /** The machine was asleep, or stood still. */
  | { type: 'SLEPT' }
  | { type: 'PAUSE' }
  | { type: 'RESUME' }
  | { type: 'MUTE'; muted: boolean }
  /** `because` is told when nobody pressed it. */
  | { type: 'STOP'; because?: string }
  | { type: 'DISCARD' }
  | { type: 'AGAIN' }
  | { type: 'REHEARSE'; lengthS: number }
  | { type: 'REHEARSING'; progress: RehearsalProgress }
  /** Ends a rehearsal early. */
  | { type: 'ENOUGH' }
  | { type: 'REHEARSED'; rehearsal: Rehearsal }
  | { type: 'NOT_REHEARSED'; error: unknown }
  | { type: 'FIGURES'; figures: Figures }
  | { type: 'SOURCE_ENDED'; role: MediaRole }
  /** What was in the way is not any more. */
  | { type: 'SOLVED'; code: string }
  | { type: 'PROBLEM'; problem: Problem; fatal: boolean };

export const NOT_BEGUN: SessionContext = {
  startAtMs: 0,
  startMonotonicMs: 0,
  stopAt: null,
  scheduled: false,
  left: 0,
  takeId: null,
  figures: null,
  muted: false,
  problem: null,
  endedBy: null,
  end: null,
  rehearsing: null,
  rehearsal: null,
};

export const clocksNow = (): Clocks => ({ wallMs: Date.now(), monotonicMs: performance.now() });

/** Whole seconds until the first instant, 0 when it has passed. */
export function secondsLeft({
  scheduled,
  startAtMs,
  startMonotonicMs,
}: Pick<SessionContext, 'scheduled' | 'startAtMs' | 'startMonotonicMs'>): number {
  const ms = scheduled ? startAtMs - Date.now() : startMonotonicMs - performance.now();
  return Math.max(0, Math.ceil(ms / 1000));
}

/** What a session that is told to record begins with. */
export function begun(event: Extract<SessionEvent, { type: 'RECORD' }>) {
  const { startAtMs, stopAtMs = null, scheduled = false } = event;
  const now = clocksNow();
  const start = { scheduled, startAtMs, startMonotonicMs: deadlineAt(startAtMs, now).monotonicMs };
  const stopAt = stopAtMs === null ? null : deadlineAt(stopAtMs, now);
  return { ...start, stopAt, left: secondsLeft(start), problem: null, endedBy: null, end: null };
}
