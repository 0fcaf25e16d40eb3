import fc from 'fast-check';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { watchStill } from './watch-still';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

it('says that an encode stands still after exactly as long without another frame, instant or byte', () => {
  const keys = fc.constantFrom('frame', 'out_time_us', 'total_size', 'speed', 'bitrate');
  const told = fc.array(fc.tuple(keys, fc.nat(2), fc.integer({ min: 1, max: 40 })), { maxLength: 30 });
  fc.assert(
    fc.property(told, (lines) => {
      const watch = watchStill(30_000);
      const before = new Map<string, number>();
      let quietS = 0;
      for (const [key, value, seconds] of lines) {
        if (watch.signal.aborted) break;
        watch.told(`${key}=${value}`);
        const counts = !['speed', 'bitrate'].includes(key);
        if (counts && before.get(key) !== value) quietS = 0;
        before.set(key, value);
        vi.advanceTimersByTime(seconds * 1000);
        quietS += seconds;
        expect(watch.signal.aborted).toBe(quietS >= 30);
      }
      watch.stop();
      expect(vi.getTimerCount()).toBe(0);
    }),
  );
});
