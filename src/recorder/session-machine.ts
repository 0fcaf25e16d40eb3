import { assign, sendTo, setup } from 'xstate';
import { problemOf } from '@/core/base/problem';
import { deadlineAt } from '@/core/recording/deadline';
import {
  begun,
  clocksNow,
  NOT_BEGUN,
  type SessionContext,
  type SessionEvent,
  secondsLeft,
} from './session-context';
import { actorsOf, type SessionEffects } from './session-effects';

/** Somebody ended it before anything could be said. */
const isAbort = (error: unknown): boolean => error instanceof DOMException && error.name === 'AbortError';

/** The wall clock has gone on while everything else stood still: what was set by it is set again. */
const setAgain = assign<SessionContext, SessionEvent, undefined, SessionEvent, never>(({ context }) => ({
  stopAt: context.stopAt && deadlineAt(context.stopAt.atMs, clocksNow()),
}));

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

/** What all states are made of: the types of their events, and what they have done for them. */
const kitOf = (effects: SessionEffects) =>
  setup({
    types: { context: {} as SessionContext, events: {} as SessionEvent },
    actors: actorsOf(effects),
    actions: {
      pause: () => effects.pause(),
      resume: () => effects.resume(),
      mute: (_, params: { muted: boolean }) => effects.mute(params.muted),
    },
  });
type Kit = ReturnType<typeof kitOf>;

const rehearsing = (kit: Kit) =>
  kit.createStateConfig({
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
        actions: assign(({ event }) => ({ problem: isAbort(event.error) ? null : problemOf(event.error) })),
      },
    },
  });

const countdown = (kit: Kit) =>
  kit.createStateConfig({
    invoke: { src: 'ticks' },
    always: { guard: ({ context }) => context.left <= 0, target: 'starting' },
    on: {
      TICK: { actions: assign(({ context }) => ({ left: secondsLeft(context) })) },
      NOW: 'starting',
      CANCEL: 'armed',
    },
  });

const starting = (kit: Kit) =>
  kit.createStateConfig({
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
  });

const taking = (kit: Kit) =>
  kit.createStateConfig({
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
  });

const stopping = (kit: Kit) =>
  kit.createStateConfig({
    invoke: {
      src: 'stop',
      onDone: { target: 'stopped', actions: assign(({ event }) => ({ end: event.output })) },
      onError: { target: 'stopped', actions: assign(({ event }) => ({ problem: problemOf(event.error) })) },
    },
  });

const discarding = (kit: Kit) =>
  kit.createStateConfig({
    invoke: {
      src: 'discard',
      onDone: { target: 'rearming', actions: assign({ takeId: null }) },
      onError: { target: 'rearming', actions: assign(({ event }) => ({ problem: problemOf(event.error) })) },
    },
  });

const rearming = (kit: Kit) =>
  kit.createStateConfig({
    entry: assign({ takeId: null, muted: false, figures: null }),
    invoke: {
      src: 'rearm',
      onDone: 'armed',
      onError: { target: 'armed', actions: assign(({ event }) => ({ problem: problemOf(event.error) })) },
    },
  });

/**
 * One recording session: armed → countdown → recording ⇄ paused → stopped, with throwing away and starting again. Every
 * way out of a take goes through `stopping` or `discarding`, so nothing ends without its files being closed.
 */
export function sessionMachine(effects: SessionEffects) {
  const kit = kitOf(effects);
  return kit.createMachine({
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
          RECORD: { target: 'countdown', actions: assign(({ event }) => begun(event)) },
        },
      },
      rehearsing: rehearsing(kit),
      countdown: countdown(kit),
      starting: starting(kit),
      taking: taking(kit),
      stopping: stopping(kit),
      stopped: { on: { AGAIN: 'rearming' } },
      discarding: discarding(kit),
      rearming: rearming(kit),
    },
  });
}
