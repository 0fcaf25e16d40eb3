import fc from 'fast-check';
import type { EncodedPacket, VideoSample } from 'mediabunny';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { PictureDecoder } from './picture-decoder';
import { laneOf } from './picture-lane';
import { openPictureWindow } from './picture-window';

const FPS = 30;
const COUNT = 240;
const GROUP = 60;
const MOST = 70;

const timeOf = (n: number): number => n / FPS;
/** The first whole µs at which a picture stands. */
const usOf = (n: number): number => Math.ceil(timeOf(n) * 1e6);
const packetOf = (n: number) => ({ timestamp: timeOf(n) }) as EncodedPacket;
const numberAt = (seconds: number): number =>
  Math.max(0, Math.min(COUNT - 1, Math.floor(seconds * FPS + 1e-6)));

/** A film whose pictures know only their time; everything takes as long as the list of delays says, ms. */
function film(delays: readonly number[]) {
  /** Pictures that somebody has and has not closed. */
  const open = new Set<object>();
  let turn = 0;
  const wait = () => new Promise<void>((done) => setTimeout(done, delays[turn++ % delays.length]));
  const picture = (n: number): VideoSample => {
    const own = {
      timestamp: timeOf(n),
      clone: () => {
        if (!open.has(own)) throw new Error('This picture is closed.');
        return picture(n);
      },
      close: () => void open.delete(own),
    };
    open.add(own);
    return own as unknown as VideoSample;
  };
  /** From where to where somebody had it decode. */
  const decoded: [from: number, to: number][] = [];
  let latest = 0;
  let end: (isThere: boolean) => void = () => {};
  const decoder: PictureDecoder = {
    decode: (key, { fromSeconds, toSeconds, afterKey }, onPicture) => {
      const mine = ++latest;
      end(false);
      const last = numberAt(toSeconds);
      decoded.push([numberAt(key.timestamp), last]);
      return new Promise<boolean>((resolve) => {
        end = resolve;
        const give = async () => {
          for (let n = numberAt(key.timestamp); n <= last; n++) {
            // Every second picture is one that no other needs.
            if (n % 2 === 1 && n < last && timeOf(n) < fromSeconds) continue;
            await wait();
            if (mine !== latest) return;
            onPicture(picture(n), n === last);
            if (n === numberAt(key.timestamp)) await afterKey;
          }
          resolve(true);
        };
        void give();
      });
    },
    close: () => {
      latest++;
      end(false);
    },
  };
  /** How often the file was asked which picture stands at a time. */
  const asked = { packets: 0 };
  const packets = {
    getPacket: async (seconds: number) => {
      asked.packets++;
      await wait();
      return packetOf(numberAt(seconds));
    },
    getFirstPacket: async () => packetOf(0),
    getKeyPacket: async (seconds: number) => {
      await wait();
      return packetOf(GROUP * Math.floor(numberAt(seconds) / GROUP));
    },
    getNextPacket: async ({ timestamp }: EncodedPacket) => {
      const n = numberAt(timestamp) + 1;
      return n < COUNT ? packetOf(n) : null;
    },
  };
  const samples = {
    async *samples(seconds = 0) {
      for (let n = numberAt(seconds); n < COUNT; n++) {
        await wait();
        yield picture(n);
      }
    },
  };
  return { open, decoded, asked, decoder, packets, samples };
}

function opened(delays: readonly number[]) {
  const made = film(delays);
  const window = openPictureWindow({ ...made, most: MOST });
  return { ...made, window, lane: laneOf(made.samples as Parameters<typeof laneOf>[0], window, 0) };
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

const shownOf = (lane: ReturnType<typeof laneOf>): number | null => {
  const shown = lane.shown();
  return shown && numberAt(shown.timestamp);
};

type Act = { act: 'show' | 'run' | 'settle' | 'halt' | 'advance'; n: number; afterMs: number };
const acts: fc.Arbitrary<Act[]> = fc.array(
  fc.record({
    act: fc.constantFrom('show', 'show', 'settle', 'settle', 'run', 'halt', 'advance', 'advance'),
    n: fc.nat(COUNT - 1),
    afterMs: fc.constantFrom(0, 1, 5, 40, 200, 800),
  }),
  { minLength: 1, maxLength: 25 },
);
const delays = fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 1, maxLength: 9 });

describe('the pictures of a track', () => {
  it('are each closed in the end, and the wish that came last is shown, whatever was wished when', async () => {
    await fc.assert(
      fc.asyncProperty(delays, acts, fc.nat(COUNT - 1), async (delays, acts, last) => {
        const { lane, window, open } = opened(delays);
        for (const { act, n, afterMs } of acts) {
          if (act === 'show') void lane.show(usOf(n), () => expect(lane.shown()).not.toBeNull());
          else if (act === 'run') lane.run(usOf(n));
          else if (act === 'advance') lane.advance(usOf(n));
          else lane[act]();
          await vi.advanceTimersByTimeAsync(afterMs);
        }
        lane.halt();
        const shown = lane.show(usOf(last));
        await vi.advanceTimersByTimeAsync(20_000);
        await shown;
        expect(shownOf(lane)).toBe(last);
        window.clear();
        expect(open.size).toBe(1);
        lane.close();
        expect(open.size).toBe(0);
      }),
      { numRuns: 60 },
    );
  });

  it('about the one that is shown are there a moment later, and are not decoded again', async () => {
    const { lane, decoded } = opened([3]);
    void lane.show(usOf(100));
    await vi.advanceTimersByTimeAsync(1000);
    lane.settle();
    await vi.advanceTimersByTimeAsync(2000);
    const before = decoded.length;
    for (const n of [90, 110, 129, 71, 100]) {
      void lane.show(usOf(n));
      await vi.advanceTimersByTimeAsync(10);
      expect(shownOf(lane)).toBe(n);
    }
    expect(decoded.length).toBe(before);
  });

  it('of another group are decoded at once, whatever else is on its way', async () => {
    const { lane, decoded } = opened([10]);
    void lane.show(usOf(100));
    await vi.advanceTimersByTimeAsync(1000);
    lane.settle();
    await vi.advanceTimersByTimeAsync(400);
    const there = lane.show(usOf(122));
    await vi.advanceTimersByTimeAsync(100);
    await there;
    expect(shownOf(lane)).toBe(122);
    expect(decoded.at(-1)).toEqual([120, 122]);
  });

  it('are looked for once in the file where nothing is kept about them', async () => {
    const { lane, asked, decoded } = opened([3]);
    for (const n of [100, 10, 200]) {
      const there = lane.show(usOf(n));
      await vi.advanceTimersByTimeAsync(1000);
      await there;
      expect(shownOf(lane)).toBe(n);
    }
    expect(asked.packets).toBe(0);
    expect(decoded).toEqual([
      [60, 100],
      [0, 10],
      [180, 200],
    ]);
  });

  it('after a keyframe wait where they were asked to, and give way to what is wished then', async () => {
    const { lane, open } = opened([1]);
    let go = () => {};
    const rest = new Promise<void>((done) => {
      go = done;
    });
    let keys = 0;
    const there = lane.show(usOf(100), () => keys++, rest);
    await vi.advanceTimersByTimeAsync(1000);
    expect([keys, shownOf(lane)]).toEqual([1, 60]);
    go();
    await vi.advanceTimersByTimeAsync(1000);
    await there;
    expect([keys, shownOf(lane)]).toEqual([1, 100]);

    const given = lane.show(usOf(200), undefined, new Promise(() => {}));
    await vi.advanceTimersByTimeAsync(1000);
    expect(shownOf(lane)).toBe(180);
    const next = lane.show(usOf(10));
    await vi.advanceTimersByTimeAsync(1000);
    await Promise.all([given, next]);
    expect(shownOf(lane)).toBe(10);
    lane.close();
    expect(open.size).toBe(0);
  });

  it('are due once each while they run, and those that came too late are counted', async () => {
    const { lane } = opened([1]);
    lane.run(0);
    let due = 0;
    let missed = 0;
    for (let n = 0; n < 120; n++) {
      await vi.advanceTimersByTimeAsync(33);
      // Nobody asks for a fifth of a second.
      if (n >= 60 && n < 66) continue;
      const moved = lane.advance(usOf(n));
      due += moved.due;
      missed += moved.missed;
    }
    expect(shownOf(lane)).toBe(119);
    expect(due).toBe(120);
    expect(missed).toBeGreaterThanOrEqual(4);
    expect(missed).toBeLessThanOrEqual(7);
  });
});
