import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { newStepId, TakeId } from '@/core/base/ids';
import { at, type Cut, defaultCut } from '@/core/cut/cut';
import type { FromPlayer } from './messages';
import type { PictureLane } from './picture-lane';
import { openPlaying } from './playing';
import type { Lane, Reel, SoundTrack } from './reels';
import type { Position } from './seeking';
import type { DecodeSound } from './sounds-ahead';
import type { Stage } from './stage';

const FRAME_US = 40_000;
const take = TakeId.parse('AAAAAAAAAAAAAAAAAAAAAA');
const whole = defaultCut(newStepId(), {
  ...{ id: take, durationUs: 20e6, camera: null, gains: { voiceDb: 0, appSoundDb: 0 } },
});
const [first] = whole.steps;
if (!first) throw new Error('A cut has a step.');

/** Two steps: two seconds from the take's beginning, and what comes after its tenth second. */
const twoSteps: Cut = {
  ...whole,
  steps: [
    { ...first, pieces: [{ take, inUs: 0, outUs: 2e6 }] },
    { ...first, id: newStepId(), pieces: [{ take, inUs: 10e6, outUs: 20e6 }] },
  ],
};

/** A lane with a picture every 40 ms from where it runs. */
function fakeLane() {
  const log: string[] = [];
  let shownUs = Number.NEGATIVE_INFINITY;
  const lane = {
    run: (us: number) => {
      log.push(`run ${us / 1e6}`);
      shownUs = us - FRAME_US;
    },
    halt: () => log.push('halt'),
    show: async (us: number) => log.push(`show ${us / 1e6}`),
    advance: (us: number) => {
      if (shownUs === Number.NEGATIVE_INFINITY) return { due: 0, missed: 0 };
      const due = Math.max(0, Math.floor((us - shownUs) / FRAME_US));
      shownUs += due * FRAME_US;
      return { due, missed: Math.max(0, due - 1) };
    },
  } as unknown as PictureLane;
  return { lane, log };
}

/** A sound in pieces of a tenth of a second. */
const decode: DecodeSound = async function* (_, fromUs, untilUs) {
  for (let us = fromUs; us < untilUs; us += 1e5)
    yield { takeUs: us, sampleRate: 48_000, planes: [new Float32Array(4800)] };
};

function opened(cut: Cut) {
  const { lane, log } = fakeLane();
  const lanes: Lane[] = [
    { kind: 'screen', lane, size: { width: 1920, height: 1080 }, firstUs: 0, lastUs: 20e6 },
  ];
  const reel: Reel = { take, rate: { num: 25, den: 1 }, lanes, sounds: [], close: () => {} };
  const drawn: number[] = [];
  const openings: number[] = [];
  const stage = {
    cut: () => cut,
    reels: () => [reel],
    soundsOf: () => [{ kind: 'voice' } as SoundTrack],
    spotAt: (us: number) => ({ reel, place: at(cut, us) }),
    draw: async (us: number) => {
      drawn.push(us);
      return true;
    },
    isMoving: () => false,
    keepForOpening: ({ startUs }: { startUs: number }) => openings.push(startUs),
  } as unknown as Stage;
  const told: Extract<FromPlayer, { type: 'shown' }>[] = [];
  const heard: Extract<FromPlayer, { type: 'sound' }>[] = [];
  const position: Position = { us: 0, asked: 0 };
  const playing = openPlaying(
    stage,
    position,
    performance.timeOrigin,
    decode,
    (message) => {
      if (message.type === 'shown') told.push(message);
      if (message.type === 'sound') heard.push(message);
    },
    (what) => (error) => expect.fail(`${what}: ${error}`),
  );
  return { playing, position, told, heard, drawn, log, openings };
}

let frames: Map<number, FrameRequestCallback>;

/** The display shows a picture every 16 ms. */
async function showFrames(ms: number): Promise<void> {
  for (let past = 0; past < ms; past += 16) {
    await vi.advanceTimersByTimeAsync(16);
    const asked = [...frames.values()];
    frames.clear();
    for (const frame of asked) frame(performance.now());
  }
}

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance', 'setTimeout', 'clearTimeout'] });
  frames = new Map();
  let count = 0;
  vi.stubGlobal('requestAnimationFrame', (frame: FrameRequestCallback) => {
    frames.set(++count, frame);
    return count;
  });
  vi.stubGlobal('cancelAnimationFrame', (id: number) => frames.delete(id));
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

const clockAt = (us: number, speed = 1) => ({ us, pageMs: performance.now(), speed });

describe('playing', () => {
  it('asks for frames only while the clock goes, and stands where it was paused', async () => {
    const { playing, position, told } = opened(whole);
    expect(frames.size).toBe(0);
    playing.play({ us: 1e6, asked: 1 });
    await showFrames(100);
    expect([frames.size, position.us]).toEqual([0, 1e6]);
    playing.setClock(clockAt(1e6));
    await showFrames(1000);
    expect(frames.size).toBe(1);
    playing.pause();
    const stoodUs = position.us;
    expect(Math.abs(stoodUs - 2e6)).toBeLessThan(20_000);
    const count = told.length;
    await showFrames(200);
    expect([frames.size, position.us, told.length]).toEqual([0, stoodUs, count]);
    playing.setClock(clockAt(stoodUs));
    playing.close();
    expect(frames.size).toBe(0);
  });

  it('hears the sound a little ahead of the clock for as long as that is told, and nothing once it is paused', async () => {
    const { playing, heard } = opened(whole);
    const lastUs = () => Math.round(heard.at(-1)?.us ?? -1);
    playing.play({ us: 1e6, asked: 4 });
    playing.setClock(clockAt(1e6));
    await showFrames(16);
    expect([heard[0]?.us, lastUs(), heard[0]?.asked]).toEqual([1e6, 2.2e6, 4]);
    for (let i = 1; i <= 5; i++) {
      playing.setClock(clockAt(1e6 + i * 2e5));
      await showFrames(16);
      expect(lastUs()).toBe(2.2e6 + i * 2e5);
    }
    playing.pause();
    const count = heard.length;
    await showFrames(100);
    playing.setClock(clockAt(4e6));
    await showFrames(100);
    expect(heard).toHaveLength(count);
  });

  it('tells every picture that is due once, those that came together as missed', async () => {
    const { playing, told } = opened(whole);
    playing.play({ us: 0, asked: 3 });
    playing.setClock(clockAt(0));
    await showFrames(2000);
    // Nothing is shown for a third of a second.
    await vi.advanceTimersByTimeAsync(333);
    await showFrames(1000);
    const sum = (key: 'due' | 'missed') => told.reduce((all, message) => all + message[key], 0);
    expect(Math.abs(sum('due') - 3333 / 40)).toBeLessThan(3);
    expect(Math.abs(sum('missed') - 333 / 40)).toBeLessThan(3);
    expect(told.every(({ exact, asked }) => exact && asked === 3)).toBe(true);
  });

  it('counts one picture in some as due where a step runs faster than it was recorded', async () => {
    const fast: Cut = { ...whole, steps: [{ ...first, speed: 4 }] };
    const { playing, told } = opened(fast);
    playing.play({ us: 0, asked: 1 });
    playing.setClock(clockAt(0));
    await showFrames(1000);
    expect(told.length).toBeGreaterThan(20);
    expect(told.every(({ due, missed }) => due <= 1 && missed === 0)).toBe(true);
  });

  it('goes on with the pictures of the next step where one ends', async () => {
    const { playing, log, openings, position } = opened(twoSteps);
    playing.play({ us: 1.5e6, asked: 1 });
    playing.setClock(clockAt(1.5e6));
    await showFrames(1000);
    const runs = log.filter((line) => line.startsWith('run'));
    expect(runs[0]).toBe('run 1.5');
    // A frame of the display later at most.
    expect(Number(runs[1]?.slice(4))).toBeGreaterThanOrEqual(10);
    expect(Number(runs[1]?.slice(4))).toBeLessThan(10.02);
    expect(runs).toHaveLength(2);
    expect(openings).toEqual([2e6]);
    expect(position.us).toBeGreaterThan(2.4e6);
  });

  it('shows a picture that is held, decodes nothing further and lets the place go on', async () => {
    const held: Cut = {
      ...whole,
      steps: [{ ...first, pieces: [{ take, inUs: 0, outUs: 2e6, heldUs: 3e6 }] }],
    };
    const { playing, log, told, drawn, position } = opened(held);
    playing.play({ us: 0, asked: 1 });
    playing.setClock(clockAt(0));
    await showFrames(1000);
    expect(log).toEqual(['halt', 'show 3']);
    expect(drawn.length).toBeGreaterThan(0);
    expect(told.filter(({ due }) => due > 0)).toHaveLength(0);
    expect(position.us).toBeGreaterThan(0.9e6);
    expect(told.at(-1)?.us).toBeGreaterThan(0.9e6);
  });
});
