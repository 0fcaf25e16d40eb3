import { assign, fromCallback, fromPromise, sendTo, setup } from 'xstate';
import type { TakeId } from '@/core/base/ids';
import { type Problem, problemOf } from '@/core/base/problem';
import { type Clocks, type Deadline, deadlineAt } from '@/core/recording/deadline';
import type { TakeEnd } from '@/core/recording/take';
import type { Figures, MediaRole } from './messages';
import type { Rehearsal, RehearsalProgress } from './rehearsal/rehearse';

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

/** Somebody ended it before anything could be said. */
const isAbort = (error: unknown): boolean => error instanceof DOMException && error.name === 'AbortError';

export const clocksNow = (): Clocks => ({ wallMs: Date.now(), monotonicMs: performance.now() });

/** Whole seconds until the first instant, 0 when it has passed. */
function secondsLeft({
  scheduled,
  startAtMs,
  startMonotonicMs,
}: Pick<SessionContext, 'scheduled' | 'startAtMs' | 'startMonotonicMs'>): number {
  const ms = scheduled ? startAtMs - Date.now() : startMonotonicMs - performance.now();
  return Math.max(0, Math.ceil(ms / 1000));
}

/** What a session that is told to record begins with. */
function begun(event: Extract<SessionEvent, { type: 'RECORD' }>) {
  const { startAtMs, stopAtMs = null, scheduled = false } = event;
  const now = clocksNow();
  const start = { scheduled, startAtMs, startMonotonicMs: deadlineAt(startAtMs, now).monotonicMs };
  const stopAt = stopAtMs === null ? null : deadlineAt(stopAtMs, now);
  return { ...start, stopAt, left: secondsLeft(start), problem: null, endedBy: null, end: null };
}

/** The wall clock has gone on while everything else stood still: what was set by it is set again. */
const setAgain = assign<SessionContext, SessionEvent, undefined, SessionEvent, never>(({ context }) => ({
  stopAt: context.stopAt && deadlineAt(context.stopAt.atMs, clocksNow()),
}));

/** How long a rehearsal is, what ends it early, and who is told how far it is. */
export type RehearseOrder = {
  lengthS: number;
  signal: AbortSignal;
  onProgress: (progress: RehearsalProgress) => void;
};

/** What the machine has done for it; the session connects these to the recorder. */
export type SessionEffects = {
  start: () => Promise<TakeId>;
  pause: () => void;
  resume: () => void;
  mute: (muted: boolean) => void;
  stop: () => Promise<TakeEnd>;
  discard: () => Promise<void>;
  /** Sources are given back to the recorder for the next take. */
  rearm: () => Promise<void>;
  /** @param tick called every 100 ms, also while the page is in the background. @returns ends it */
  ticks: (tick: () => void) => () => void;
  rehearse: (order: RehearseOrder) => Promise<Rehearsal>;
};

/** Without its picture a lesson is over; a camera or a microphone that goes leaves the rest untouched. */
const PICTURE_ENDED = {
  guard: ({ event }: { event: Extract<SessionEvent, { type: 'SOURCE_ENDED' }> }) => event.role === 'screen',
  actions: assign<
    SessionContext,
    Extract<SessionEvent, { type: 'SOURCE_ENDED' }>,
    undefined,
    SessionEvent,
    never
  >({
    endedBy: 'Sharing was ended, so the take ends here.',
  }),
};

const NOT_BEGUN: SessionContext = {
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

/** What runs while the machine is in a state. */
const actorsOf = (effects: SessionEffects) => ({
  start: fromPromise(() => effects.start()),
  stop: fromPromise(() => effects.stop()),
  discard: fromPromise(() => effects.discard()),
  rearm: fromPromise(() => effects.rearm()),
  rehearse: fromCallback<SessionEvent, { lengthS: number }>(({ input, sendBack, receive }) => {
    const enough = new AbortController();
    receive(() => enough.abort());
    effects
      .rehearse({
        lengthS: input.lengthS,
        signal: enough.signal,
        onProgress: (progress) => sendBack({ type: 'REHEARSING', progress }),
      })
      .then(
        (rehearsal) => sendBack({ type: 'REHEARSED', rehearsal }),
        (error) => sendBack({ type: 'NOT_REHEARSED', error }),
      );
    return () => enough.abort();
  }),
  ticks: fromCallback(({ sendBack }) => effects.ticks(() => sendBack({ type: 'TICK' }))),
});

/**
 * One recording session: armed → countdown → recording ⇄ paused → stopped, with throwing away and starting again. Every
 * way out of a take goes through `stopping` or `discarding`, so nothing ends without its files being closed.
 */
export const sessionMachine = (effects: SessionEffects) =>
  setup({
    types: { context: {} as SessionContext, events: {} as SessionEvent },
    actors: actorsOf(effects),
    actions: {
      pause: () => effects.pause(),
      resume: () => effects.resume(),
      mute: (_, params: { muted: boolean }) => effects.mute(params.muted),
    },
  }).createMachine({
    id: 'session',
    initial: 'armed',
    context: NOT_BEGUN,
    on: {
      FIGURES: { actions: assign(({ event }) => ({ figures: event.figures })) },
      PROBLEM: { actions: assign(({ event }) => ({ problem: event.problem })) },
      SLEPT: { actions: setAgain },
      SOLVED: {
        guard: ({ context, event }) => context.problem?.code === event.code,
        actions: assign({ problem: null }),
      },
      MUTE: {
        actions: [
          assign(({ event }) => ({ muted: event.muted })),
          { type: 'mute', params: ({ event }) => ({ muted: event.muted }) },
        ],
      },
    },
    states: {
      armed: {
        on: {
          REHEARSE: 'rehearsing',
          RECORD: {
            target: 'countdown',
            actions: assign(({ event }) => begun(event)),
          },
        },
      },
      rehearsing: {
        entry: assign({ problem: null }),
        exit: assign({ rehearsing: null }),
        invoke: {
          id: 'rehearsal',
          src: 'rehearse',
          input: ({ event }) => ({ lengthS: event.type === 'REHEARSE' ? event.lengthS : 0 }),
        },
        on: {
          REHEARSING: { actions: assign(({ event }) => ({ rehearsing: event.progress })) },
          ENOUGH: { actions: sendTo('rehearsal', { type: 'ENOUGH' }) },
          REHEARSED: {
            target: 'rearming',
            actions: assign(({ event }) => ({ rehearsal: event.rehearsal })),
          },
          NOT_REHEARSED: {
            target: 'rearming',
            actions: assign(({ event }) => ({
              problem: isAbort(event.error) ? null : problemOf(event.error),
            })),
          },
        },
      },
      countdown: {
        invoke: { src: 'ticks' },
        always: { guard: ({ context }) => context.left <= 0, target: 'starting' },
        on: {
          TICK: { actions: assign(({ context }) => ({ left: secondsLeft(context) })) },
          NOW: 'starting',
          CANCEL: 'armed',
        },
      },
      starting: {
        // A picture that goes before its take has begun ends it as soon as it has.
        on: { SOURCE_ENDED: PICTURE_ENDED },
        invoke: {
          src: 'start',
          onDone: {
            target: 'taking',
            // A take that waited for its time may have slept before: what ends it is counted from here.
            actions: [assign(({ event }) => ({ takeId: event.output })), setAgain],
          },
          onError: { target: 'armed', actions: assign(({ event }) => ({ problem: problemOf(event.error) })) },
        },
      },
      taking: {
        initial: 'recording',
        always: { guard: ({ context }) => context.endedBy !== null, target: 'stopping' },
        on: {
          STOP: {
            target: 'stopping',
            actions: assign(({ event }) => (event.because ? { endedBy: event.because } : {})),
          },
          DISCARD: 'discarding',
          SOURCE_ENDED: { ...PICTURE_ENDED, target: 'stopping' },
          PROBLEM: [
            {
              guard: ({ event }) => event.fatal,
              target: 'stopping',
              actions: assign(({ event }) => ({ problem: event.problem, endedBy: event.problem.message })),
            },
            { actions: assign(({ event }) => ({ problem: event.problem })) },
          ],
        },
        states: {
          recording: { on: { PAUSE: { target: 'paused', actions: 'pause' } } },
          paused: { on: { RESUME: { target: 'recording', actions: 'resume' } } },
        },
      },
      stopping: {
        invoke: {
          src: 'stop',
          onDone: { target: 'stopped', actions: assign(({ event }) => ({ end: event.output })) },
          onError: {
            target: 'stopped',
            actions: assign(({ event }) => ({ problem: problemOf(event.error) })),
          },
        },
      },
      stopped: { on: { AGAIN: 'rearming' } },
      discarding: {
        invoke: {
          src: 'discard',
          onDone: { target: 'rearming', actions: assign({ takeId: null }) },
          onError: {
            target: 'rearming',
            actions: assign(({ event }) => ({ problem: problemOf(event.error) })),
          },
        },
      },
      rearming: {
        entry: assign({ takeId: null, muted: false, figures: null }),
        invoke: {
          src: 'rearm',
          onDone: 'armed',
          onError: { target: 'armed', actions: assign(({ event }) => ({ problem: problemOf(event.error) })) },
        },
      },
    },
  });
