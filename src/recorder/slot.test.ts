import { describe, expect, it } from 'vitest';
import { ProblemError } from '@/core/base/problem';
import type { SourceState } from '@/core/findings/preflight';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { withValue } from '@/core/rig/rig-values';
import type { MediaRole } from './messages';
import { openSlot } from './slot';
import type { OpenSource } from './sources';

/** A slot whose sources open when they are told to, and a recorder that writes down what it is asked. */
function slotOf(role: MediaRole = 'camera', initial: Rig = PRACTICE_RIG) {
  const now = { rig: initial, taking: false, state: undefined as SourceState | undefined };
  const said: string[] = [];
  const states: string[] = [];
  const waiting: { give: () => void; fail: (error: unknown) => void }[] = [];
  const made: { closed: boolean; adapted: number }[] = [];
  const source = (n: number): OpenSource => ({
    role,
    type: role === 'screen' || role === 'camera' ? 'video' : 'audio',
    track: { getSettings: () => ({ width: 640, height: 360 }), label: '' } as MediaStreamTrack,
    label: `${role} ${n}`,
    clock: 'page',
    adapt: async () => {
      const own = made[n];
      if (own) own.adapted++;
    },
    close: () => {
      const own = made[n];
      if (own) own.closed = true;
    },
  });
  const slot = openSlot({
    role,
    recorder: {
      attach: async ({ label }) => {
        said.push(`attach ${label}`);
      },
      detach: (which) => said.push(`detach ${which}`),
    },
    rig: () => now.rig,
    isTaking: () => now.taking,
    open: () =>
      new Promise((resolve, reject) => {
        const n = made.push({ closed: false, adapted: 0 }) - 1;
        waiting.push({ give: () => resolve(source(n)), fail: reject });
      }),
    known: () => ({}),
    state: () => now.state,
    setState: (state) => {
      now.state = state;
      states.push(state.state);
    },
    onConnected: ({ label }) => said.push(`connected ${label}`),
  });
  const change = (path: string, value: unknown) => {
    now.rig = withValue(now.rig, path, value as never);
  };
  return { slot, now, said, states, waiting, made, source, change };
}

describe('a slot', () => {
  it('opens what the rig names and connects it once; asked again, it does nothing', async () => {
    const { slot, waiting, said, states } = slotOf();
    const following = slot.follow();
    waiting[0]?.give();
    await following;
    await slot.follow();
    expect(said).toEqual(['attach camera 0', 'connected camera 0']);
    expect(states).toEqual(['opening', 'open']);
    expect(slot.source()?.label).toBe('camera 0');
  });

  it('reconnects the same source for another encoding, after asking it for what the rig wants now', async () => {
    const { slot, waiting, said, made, change } = slotOf('screen');
    const following = slot.follow();
    waiting[0]?.give();
    await following;
    change('picture.bitrateKbps', 900);
    slot.release();
    await slot.follow();
    expect(made).toEqual([{ closed: false, adapted: 1 }]);
    expect(said.slice(2)).toEqual(['detach screen', 'attach screen 0']);
  });

  it('closes what was changed while it was being opened, and opens what is wanted now', async () => {
    const { slot, waiting, made, said, change } = slotOf();
    const first = slot.follow();
    change('camera.size', { width: 320, height: 240 });
    waiting[0]?.give();
    await first;
    expect(made[0]?.closed).toBe(true);
    expect(said).toEqual([]);
    const second = slot.follow();
    waiting[1]?.give();
    await second;
    expect(slot.source()?.label).toBe('camera 1');
  });

  it('lets go at once of what the rig names no more, but of nothing while a take runs', async () => {
    const { slot, waiting, made, now, change, said } = slotOf();
    const following = slot.follow();
    waiting[0]?.give();
    await following;
    now.taking = true;
    change('camera', null);
    slot.release();
    await slot.follow();
    expect(made[0]?.closed).toBe(false);
    now.taking = false;
    slot.release();
    expect(made[0]?.closed).toBe(true);
    expect(said.at(-1)).toBe('detach camera');
    await slot.follow();
    expect(now.state).toEqual({ state: 'absent' });
  });

  it('says why a source cannot be opened and tries no more until it is asked to; one that comes back joins a take', async () => {
    const { slot, waiting, now } = slotOf();
    const problem = { code: 'device-busy', message: 'Busy.', hint: 'Wait.' };
    const first = slot.follow();
    waiting[0]?.fail(new ProblemError(problem));
    await first;
    expect(now.state).toEqual({ state: 'failed', problem });
    await slot.follow();
    expect(waiting.length).toBe(1);
    now.taking = true;
    slot.forget();
    const again = slot.follow();
    waiting[1]?.give();
    await again;
    expect(now.state?.state).toBe('open');
  });

  it('keeps saying that a source ended where it cannot be opened again', async () => {
    const { slot, waiting, now } = slotOf();
    const first = slot.follow();
    waiting[0]?.give();
    await first;
    slot.ended();
    expect(now.state?.problem?.code).toBe('source-ended');
    const again = slot.follow();
    waiting[1]?.fail(new ProblemError({ code: 'no-device', message: 'Gone.' }));
    await again;
    expect(now.state?.problem?.code).toBe('source-ended');
  });

  it('never opens a picker without a click; what was picked is kept for another frame rate', async () => {
    const shared = withValue(PRACTICE_RIG, 'picture.source', { from: 'screen', meant: 'window' });
    const { slot, waiting, now, source, made, change } = slotOf('screen', shared);
    await slot.follow();
    expect(waiting.length).toBe(0);
    expect(now.state?.state).toBe('absent');
    made.push({ closed: false, adapted: 0 });
    await slot.put(source(0));
    change('picture.frameRate', { num: 15, den: 1 });
    slot.release();
    await slot.follow();
    expect(made).toEqual([{ closed: false, adapted: 1 }]);
    expect(slot.source()?.label).toBe('screen 0');
  });

  it('lets go of one that opens after the page has gone', async () => {
    const { slot, waiting, made } = slotOf();
    const following = slot.follow();
    slot.close();
    waiting[0]?.give();
    await following;
    expect(made[0]?.closed).toBe(true);
    expect(slot.source()).toBeNull();
  });
});
