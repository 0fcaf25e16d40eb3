import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { eachOf, together } from './together';

const never = new AbortController().signal;

/** Resolves after some turns of the event loop; rejects when it is told to end. */
async function turns(count: number, signal: AbortSignal): Promise<void> {
  for (let n = 0; n < count; n++) {
    await new Promise((done) => setImmediate(done));
    signal.throwIfAborted();
  }
}

describe('each of several things', () => {
  it('is done once, begun in its order, never with more at once than asked', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 0, max: 5 }), { maxLength: 12 }),
        fc.integer({ min: 1, max: 3 }),
        async (lengths, atOnce) => {
          const [begun, done]: [number[], number[]] = [[], []];
          let [now, most] = [0, 0];
          const items = lengths.map((length, i) => ({ length, i }));
          await eachOf(items, atOnce, never, async ({ length, i }, signal) => {
            begun.push(i);
            most = Math.max(most, ++now);
            await turns(length, signal);
            now--;
            done.push(i);
          });
          expect(begun).toEqual(lengths.map((_, i) => i));
          expect([...done].sort((a, b) => a - b)).toEqual(begun);
          expect(most).toBe(Math.min(atOnce, lengths.length));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('begins nothing more after one has failed, ends what is under way, and tells what failed first', async () => {
    const begun: string[] = [];
    const ended: string[] = [];
    const work = async (item: string, signal: AbortSignal) => {
      begun.push(item);
      if (item === 'b') throw new Error('b is broken');
      await turns(1000, signal).finally(() => ended.push(item));
    };
    await expect(eachOf(['a', 'b', 'c', 'd'], 2, never, work)).rejects.toThrow('b is broken');
    expect([begun, ended]).toEqual([['a', 'b'], ['a']]);
  });

  it('ends when it is cancelled, and says why', async () => {
    const cancel = new AbortController();
    const begun: number[] = [];
    const work = async (item: number, signal: AbortSignal) => {
      begun.push(item);
      if (item === 2) cancel.abort(new Error('cancelled by hand'));
      await turns(3, signal);
    };
    await expect(eachOf([1, 2, 3, 4], 1, cancel.signal, work)).rejects.toThrow('cancelled by hand');
    expect(begun).toEqual([1, 2]);
  });
});

describe('things done together', () => {
  it('are all over before the failure of one is told', async () => {
    let over = false;
    const slow = async (signal: AbortSignal) => {
      await turns(1000, signal).catch(() => turns(5, never));
      over = true;
    };
    const broken = () => Promise.reject(new Error('broken'));
    await expect(together(never, [slow, broken])).rejects.toThrow('broken');
    expect(over).toBe(true);
  });
});
