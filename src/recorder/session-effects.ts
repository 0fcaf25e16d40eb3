import { fromCallback, fromPromise } from 'xstate';
import type { TakeId } from '@/core/base/ids';
import type { TakeEnd } from '@/core/recording/take';
import type { Rehearsal, RehearsalProgress } from './rehearsal/rehearse';
import type { SessionEvent } from './session-context';

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

/** What runs while the machine is in a state. */
export const actorsOf = (effects: SessionEffects) => ({
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
