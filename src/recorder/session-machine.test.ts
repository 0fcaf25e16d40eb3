import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createActor } from 'xstate';
import { newTakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import type { TakeEnd } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';
import { ownEnd } from './own-end';
import type { Rehearsal } from './rehearsal/rehearse';
import { clocksNow, type SessionEvent } from './session-context';
import type { SessionEffects } from './session-effects';
import { sessionMachine } from './session-machine';

const END: TakeEnd = {
  ...{ durationUs: 1_000_000, pauses: [], ledger: {}, segments: [], absent: [], cutOff: false },
};

/** What comes of a rehearsal is nothing to the machine. */
const REHEARSAL = { film: { parts: [], speed: 1 } } as unknown as Rehearsal;

/** A recorder that notes what it is told, and answers in the next turn. */
function fakeRecorder(
  fails: Partial<Record<'start' | 'stop' | 'discard' | 'rearm' | 'rehearse', string>> = {},
) {
  const told: string[] = [];
  const act = async <T>(what: keyof typeof fails, answer: T): Promise<T> => {
    told.push(what);
    const message = fails[what];
    if (message) throw new ProblemError({ code: 'fake', message });
    return answer;
  };
  const effects: SessionEffects = {
    start: () => act('start', newTakeId()),
    stop: () => act('stop', END),
    discard: () => act('discard', undefined),
    rearm: () => act('rearm', undefined),
    pause: () => told.push('pause'),
    resume: () => told.push('resume'),
    mute: (muted) => told.push(`mute ${muted}`),
    ticks: (tick) => {
      const timer = setInterval(tick, 100);
      return () => clearInterval(timer);
    },
    rehearse: ({ signal, onProgress }) => {
      told.push('rehearse');
      onProgress({ phase: 'recording', leftMs: 1000 });
      return new Promise((resolve, reject) => {
        const end = () =>
          fails.rehearse
            ? reject(new ProblemError({ code: 'fake', message: fails.rehearse }))
            : resolve(REHEARSAL);
        signal.addEventListener('abort', end);
        setTimeout(end, 1000);
      });
    },
  };
  const actor = createActor(sessionMachine(effects));
  actor.start();
  return { actor, told };
}

const turn = () => vi.advanceTimersByTimeAsync(1);
/** No limit. */
const FREE = { lengthS: null } as Rig['limits'];
const NOW = { type: 'RECORD', startAtMs: 0 } as const;

beforeEach(() => {
  vi.useFakeTimers({ now: 1_800_000_000_000 });
  return () => vi.useRealTimers();
});

describe('a session', () => {
  it('counts down, and starts once', async () => {
    const { actor, told } = fakeRecorder();
    actor.send({ type: 'RECORD', startAtMs: Date.now() + 3000 });
    expect(actor.getSnapshot().context.left).toBe(3);
    await vi.advanceTimersByTimeAsync(2050);
    expect(actor.getSnapshot().context.left).toBe(1);
    expect(told).toEqual([]);
    await vi.advanceTimersByTimeAsync(1000);
    expect(told).toEqual(['start']);
    expect(actor.getSnapshot().matches({ taking: 'recording' })).toBe(true);
  });

  it('ends a take whose picture went while it was being started, and none whose camera did', async () => {
    const { actor, told } = fakeRecorder();
    actor.send(NOW);
    actor.send({ type: 'SOURCE_ENDED', role: 'camera' });
    await turn();
    expect(actor.getSnapshot().matches({ taking: 'recording' })).toBe(true);
    actor.send({ type: 'STOP' });
    await turn();
    actor.send({ type: 'AGAIN' });
    await turn();
    actor.send(NOW);
    expect(actor.getSnapshot().matches('starting')).toBe(true);
    actor.send({ type: 'SOURCE_ENDED', role: 'screen' });
    await turn();
    await turn();
    expect(actor.getSnapshot().matches('stopped')).toBe(true);
    expect(actor.getSnapshot().context.endedBy).toBe('Sharing was ended, so the take ends here.');
    expect(told).toEqual(['start', 'stop', 'rearm', 'start', 'stop']);
  });

  it('starts at once where the machine slept over its time of day', async () => {
    const { actor, told } = fakeRecorder();
    actor.send({ type: 'RECORD', startAtMs: Date.now() + 60_000, scheduled: true });
    vi.setSystemTime(Date.now() + 3_600_000);
    await vi.advanceTimersByTimeAsync(150);
    expect(told).toEqual(['start']);
  });

  it.each([-3_600_000, 3_600_000])(
    'moves neither its countdown nor its end when the wall clock is set by %s ms; after a sleep the end is that of the clock again',
    async (byMs) => {
      const { actor, told } = fakeRecorder();
      const [startAtMs, stopAtMs] = [Date.now() + 3000, Date.now() + 60_000];
      actor.send({ type: 'RECORD', startAtMs, stopAtMs });
      vi.setSystemTime(Date.now() + byMs);
      await vi.advanceTimersByTimeAsync(2850);
      expect(told).toEqual([]);
      expect(actor.getSnapshot().context.left).toBe(1);
      vi.setSystemTime(Date.now() - byMs);
      await vi.advanceTimersByTimeAsync(250);
      expect(told).toEqual(['start']);
      const end = () => ownEnd(0, FREE, actor.getSnapshot().context.stopAt, clocksNow());
      vi.setSystemTime(Date.now() + byMs);
      await vi.advanceTimersByTimeAsync(50_000);
      expect(end()).toBeNull();
      await vi.advanceTimersByTimeAsync(7500);
      expect(end()?.kind).toBe('schedule');
      // Set back to before its end, and slept: what counts then is the time of day.
      vi.setSystemTime(stopAtMs - 1000);
      actor.send({ type: 'SLEPT' });
      expect(end()).toBeNull();
      vi.setSystemTime(stopAtMs + 1000);
      actor.send({ type: 'SLEPT' });
      expect(end()?.kind).toBe('schedule');
    },
  );

  it('ends without its picture, and goes on without its camera or microphone', async () => {
    const { actor, told } = fakeRecorder();
    actor.send(NOW);
    await turn();
    actor.send({ type: 'SOURCE_ENDED', role: 'camera' });
    actor.send({ type: 'SOURCE_ENDED', role: 'voice' });
    await turn();
    expect(actor.getSnapshot().matches('taking')).toBe(true);
    actor.send({ type: 'SOURCE_ENDED', role: 'screen' });
    await turn();
    expect(told).toEqual(['start', 'stop']);
    const { end, endedBy } = actor.getSnapshot().context;
    expect(end).toEqual(END);
    expect(endedBy).toBe('Sharing was ended, so the take ends here.');
  });

  it('says what went wrong where a take could not start, stop or be thrown away', async () => {
    const refused = fakeRecorder({ start: 'No encoder.' });
    refused.actor.send(NOW);
    await turn();
    expect(refused.actor.getSnapshot().matches('armed')).toBe(true);
    expect(refused.actor.getSnapshot().context.problem?.message).toBe('No encoder.');
    const torn = fakeRecorder({ stop: 'The disk is full.', rearm: 'The camera is gone.' });
    torn.actor.send(NOW);
    await turn();
    torn.actor.send({ type: 'STOP' });
    await turn();
    expect(torn.actor.getSnapshot().matches('stopped')).toBe(true);
    expect(torn.actor.getSnapshot().context.problem?.message).toBe('The disk is full.');
    torn.actor.send({ type: 'AGAIN' });
    await turn();
    expect(torn.actor.getSnapshot().matches('armed')).toBe(true);
    expect(torn.actor.getSnapshot().context.problem?.message).toBe('The camera is gone.');
  });

  it('closes every take that it started, once, whatever is pressed and whatever fails', async () => {
    const events = fc.constantFrom<SessionEvent>(
      { ...NOW },
      { type: 'NOW' },
      { type: 'CANCEL' },
      { type: 'PAUSE' },
      { type: 'RESUME' },
      { type: 'STOP' },
      { type: 'STOP', because: 'The take reached its limit.' },
      { type: 'DISCARD' },
      { type: 'AGAIN' },
      { type: 'SOURCE_ENDED', role: 'screen' },
      { type: 'SOURCE_ENDED', role: 'voice' },
      { type: 'PROBLEM', problem: { code: 'late', message: 'Frames were dropped.' }, fatal: false },
      { type: 'PROBLEM', problem: { code: 'full', message: 'The disk is full.' }, fatal: true },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(events, { maxLength: 30 }), fc.boolean(), async (pressed, fails) => {
        const { actor, told } = fakeRecorder(fails ? { stop: 'Torn.', discard: 'Torn.' } : {});
        for (const event of pressed) {
          actor.send(event);
          await turn();
        }
        actor.send({ type: 'STOP' });
        await turn();
        const takes = told.filter((what) => ['start', 'stop', 'discard'].includes(what));
        takes.forEach((what, i) => {
          expect(what === 'start').toBe(i % 2 === 0);
        });
        expect(takes.length % 2).toBe(0);
        // Pausing and going on take turns within a take.
        const clocks = told.filter((what) => what !== 'rearm').join(' ');
        expect(clocks).not.toMatch(/pause pause|resume resume|stop pause|stop resume|start resume/);
        actor.stop();
      }),
      { numRuns: 60 },
    );
  });

  it('rehearses from armed only, keeps what came of it, and connects the sources again', async () => {
    const { actor, told } = fakeRecorder();
    actor.send({ type: 'REHEARSE', lengthS: 10 });
    // A take cannot begin meanwhile.
    actor.send(NOW);
    await turn();
    expect(actor.getSnapshot().matches('rehearsing')).toBe(true);
    expect(actor.getSnapshot().context.rehearsing).toEqual({ phase: 'recording', leftMs: 1000 });
    await vi.advanceTimersByTimeAsync(1000);
    expect(actor.getSnapshot().matches('armed')).toBe(true);
    expect(actor.getSnapshot().context).toMatchObject({ rehearsal: REHEARSAL, rehearsing: null });
    expect(told).toEqual(['rehearse', 'rearm']);
  });

  it('ends a rehearsal early when that is enough, and says why one failed', async () => {
    const early = fakeRecorder();
    early.actor.send({ type: 'REHEARSE', lengthS: 60 });
    await turn();
    early.actor.send({ type: 'ENOUGH' });
    await turn();
    await turn();
    expect(early.actor.getSnapshot().context.rehearsal).toBe(REHEARSAL);

    const failing = fakeRecorder({ rehearse: 'There is no source.' });
    failing.actor.send({ type: 'REHEARSE', lengthS: 10 });
    await vi.advanceTimersByTimeAsync(1001);
    expect(failing.actor.getSnapshot().matches('armed')).toBe(true);
    expect(failing.actor.getSnapshot().context).toMatchObject({
      problem: { message: 'There is no source.' },
      rehearsal: null,
    });
  });
});
