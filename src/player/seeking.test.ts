import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newStepId, TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, defaultCut } from '@/core/cut/cut';
import type { FromPlayer } from './messages';
import type { PictureLane } from './picture-lane';
import type { Lane, Reel } from './reels';
import { openSeeking, type Position } from './seeking';
import type { Stage } from './stage';

const DURATION_US = 60e6;
const take = TakeId.parse('AAAAAAAAAAAAAAAAAAAAAA');
const cut: Cut = defaultCut(newStepId(), {
  ...{ id: take, durationUs: DURATION_US, gains: { voiceDb: 0, appSoundDb: 0 } },
  camera: {
    ...{ corner: 'bottom-right', size: 0.2, shape: 'circle', margin: 0.03, mirror: true },
  } as unknown as Parameters<typeof defaultCut>[1]['camera'],
});

/** How long a lane takes to its keyframe, and from there to the exact picture, ms. */
type Pace = { keyMs: number; exactMs: number; fails?: true };

const after = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** A lane that knows no pictures but what is shown: nothing, a keyframe on the way to a time, or that time. */
function fakeLane(kind: Lane['kind'], { keyMs, exactMs, fails }: Pace, log: string[]) {
  let wish = 0;
  let shown: { us: number; isExact: boolean } | null = null;
  const lane = {
    show: async (us: number, onKey?: () => void, afterKey?: Promise<unknown>) => {
      const mine = ++wish;
      await after(keyMs);
      if (fails) throw new Error(`The file of the ${kind} is gone.`);
      if (mine !== wish) return;
      shown = { us, isExact: false };
      log.push(`${kind} key`);
      onKey?.();
      await afterKey;
      log.push(`${kind} goes on`);
      await after(exactMs);
      if (mine === wish) shown = { us, isExact: true };
    },
    settle: () => log.push(`${kind} settles`),
  } as unknown as PictureLane;
  return {
    lane: { kind, lane, size: { width: 1920, height: 1080 }, firstUs: 0, lastUs: DURATION_US } as Lane,
    shown: () => shown,
  };
}

/** A screen and a camera to seek in; a drawing notes which pictures both have at that moment. */
function opened(screen: Pace, camera: Pace, drawMs = 4) {
  const log: string[] = [];
  const lanes = [fakeLane('screen', screen, log), fakeLane('camera', camera, log)] as const;
  const reel: Reel = {
    ...{ take, rate: { num: 30, den: 1 }, lanes: lanes.map(({ lane }) => lane), sounds: [], close: () => {} },
  };
  let draws = 0;
  const drawn: { us: number; isExact: boolean; isOfPlace: boolean }[] = [];
  const stage = {
    cut: () => cut,
    spotAt: (us: number) => ({
      reel,
      place: { step: cut.steps[0], piece: cut.steps[0]?.pieces[0], takeUs: us, hereUs: us, startUs: 0 },
    }),
    prepareOpening: async () => {},
    draw: async (us: number) => {
      const mine = ++draws;
      await after(drawMs);
      if (mine !== draws) return false;
      const shown = lanes.map((lane) => lane.shown());
      drawn.push({
        us,
        isExact: shown.every((each) => each?.isExact),
        isOfPlace: shown.every((each) => each?.us === us),
      });
      return true;
    },
  } as unknown as Stage;
  const told: FromPlayer[] = [];
  const position: Position = { us: 0, asked: 0 };
  const undrawn = vi.fn();
  const seeking = openSeeking(stage, position, (message) => told.push(message), undrawn);
  return { seeking, told, drawn, log, position, undrawn };
}

const shownOf = (told: FromPlayer[]) =>
  told.map((message) => (message.type === 'shown' ? [message.us, message.exact] : message.type));

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

async function settled<T>(promise: Promise<T>): Promise<T> {
  await vi.advanceTimersByTimeAsync(5000);
  return promise;
}

describe('a seek', () => {
  it('shows the keyframes of all lanes on the way, then the exact pictures, and settles last', async () => {
    const { seeking, told, drawn, log } = opened({ keyMs: 30, exactMs: 90 }, { keyMs: 5, exactMs: 20 });
    await settled(seeking.seek({ us: 5e6, asked: 1 }));
    expect(shownOf(told)).toEqual([
      [5e6, false],
      [5e6, true],
    ]);
    expect(drawn).toEqual([
      { us: 5e6, isExact: false, isOfPlace: true },
      { us: 5e6, isExact: true, isOfPlace: true },
    ]);
    expect(log.slice(-2)).toEqual(['screen settles', 'camera settles']);
  });

  it('decodes the camera’s keyframe at once, and what comes after it only when the screen shows its own', async () => {
    const { seeking, log } = opened({ keyMs: 30, exactMs: 90 }, { keyMs: 5, exactMs: 20 });
    await settled(seeking.seek({ us: 5e6, asked: 1 }));
    expect(log.slice(0, 2)).toEqual(['camera key', 'screen key']);
    expect(log.indexOf('camera goes on')).toBeGreaterThan(log.indexOf('screen key'));
  });

  it('does not leave the camera waiting when the screen fails', async () => {
    const { seeking, log } = opened({ keyMs: 30, exactMs: 90, fails: true }, { keyMs: 5, exactMs: 20 });
    const seek = expect(seeking.seek({ us: 5e6, asked: 1 })).rejects.toThrow('gone');
    await vi.advanceTimersByTimeAsync(500);
    await seek;
    expect(log).toContain('camera goes on');
  });

  it('of a frame shows nothing on the way, makes nobody wait, and ends at the newest place', async () => {
    const { seeking, told, log } = opened({ keyMs: 30, exactMs: 90 }, { keyMs: 5, exactMs: 20 });
    const steps = [1, 2, 3, 4].map((n) => seeking.step({ us: n * 33_333, asked: n }));
    await settled(Promise.all(steps));
    expect(shownOf(told)).toEqual([
      [33_333, true],
      [4 * 33_333, true],
    ]);
    expect(log.indexOf('camera goes on')).toBeLessThan(log.indexOf('screen key'));
  });

  it('goes no farther than the cut', async () => {
    const { seeking, told, position } = opened({ keyMs: 3, exactMs: 3 }, { keyMs: 3, exactMs: 3 });
    await settled(seeking.seek({ us: 2 * DURATION_US, asked: 1 }));
    await settled(seeking.seek({ us: -5, asked: 2 }));
    expect(shownOf(told).filter((each) => each[1] === true)).toEqual([
      [cutLengthUs(cut), true],
      [0, true],
    ]);
    expect(position).toEqual({ us: 0, asked: 2 });
  });

  it('tells the newest place alone, as what it is, however wishes and lanes overlap', async () => {
    const pace = fc.record({
      keyMs: fc.integer({ min: 0, max: 40 }),
      exactMs: fc.integer({ min: 0, max: 90 }),
    });
    const wishes = fc.array(
      fc.record({
        kind: fc.constantFrom<'seek' | 'step' | 'end'>('seek', 'seek', 'step', 'end'),
        us: fc.integer({ min: 0, max: 59_000_000 }),
        waitMs: fc.integer({ min: 0, max: 120 }),
      }),
      { minLength: 1, maxLength: 8 },
    );
    await fc.assert(
      fc.asyncProperty(pace, pace, wishes, async (screen, camera, all) => {
        const { seeking, told, drawn, undrawn } = opened(screen, camera);
        const done: Promise<void>[] = [];
        for (const [n, { kind, us, waitMs }] of all.entries()) {
          if (kind === 'end') seeking.end();
          else done.push(seeking[kind]({ us, asked: n + 1 }));
          await vi.advanceTimersByTimeAsync(waitMs);
        }
        const last = all.length + 1;
        done.push(seeking.seek({ us: 1_000_000, asked: last }));
        await vi.advanceTimersByTimeAsync(2000);
        await Promise.all(done);
        expect(undrawn).not.toHaveBeenCalled();
        const shown = told.filter((message) => message.type === 'shown');
        // Counts never go back, and each wish is told to be exact once at most.
        const counts = shown.map(({ asked }) => asked);
        expect(counts).toEqual([...counts].sort((a, b) => a - b));
        const exact = shown.filter((message) => message.exact).map(({ asked }) => asked);
        expect(new Set(exact).size).toBe(exact.length);
        expect(shown.at(-1)).toMatchObject({ us: 1_000_000, exact: true, asked: last });
        // What is told to be exact was drawn with the exact pictures of that very place.
        expect(drawn.at(-1)).toEqual({ us: 1_000_000, isExact: true, isOfPlace: true });
        for (const { us, asked } of shown) expect(all[asked - 1]?.us ?? 1_000_000).toBe(us);
      }),
      { numRuns: 150 },
    );
  });
});
