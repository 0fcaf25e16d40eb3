import fc from 'fast-check';
import { expect, it } from 'vitest';
import { unpackFrame } from '@/core/rehearsal/frame-trace';
import { openFrameAccount } from './frame-account';
import { openPictureLine } from './picture-line';
import { newRecording } from './recording';
import type { TakeFiles } from './segment';
import { openTakeTrace } from './take-trace';

const RATE = { num: 30, den: 1 };

it('gives every frame the fate that pacing counts, whatever comes when', () => {
  const Step = fc.record({
    us: fc.integer({ min: 1000, max: 90_000 }),
    comes: fc.boolean(),
    free: fc.boolean(),
  });
  fc.assert(
    fc.property(fc.array(Step, { maxLength: 120 }), (steps) => {
      const clock = { now: 0 };
      const trace = openTakeTrace(() => clock.now);
      const line = openPictureLine(
        RATE,
        openFrameAccount(false),
        () => clock.now,
        trace.frames.screen.arrived,
      );
      line.start(newRecording(0, {} as TakeFiles), null);
      const act = (next: ReturnType<typeof line.next>) => {
        if (next.act === 'wait') return;
        if (next.act === 'encode') trace.frames.screen.given(next.tUs);
        else trace.frames.screen.repeated(next.tUs);
        trace.frames.screen.packet({ tUs: next.tUs, composeMs: 1, encodeMs: 2, bytes: 3, key: false });
      };
      for (const { us, comes, free } of steps) {
        clock.now += us;
        if (comes) line.arrive({ timestampUs: clock.now, monotonicUs: clock.now });
        act(line.next(free));
      }
      for (const last of line.finish(clock.now)) act(last);
      const { encoded, repeated, skipped, dropped, arrived } = line.counts();
      const frames = trace.end().frames.map(unpackFrame);
      const count = (fate: string) => frames.filter((frame) => frame.fate === fate).length;
      expect({
        ...{ recorded: count('recorded'), unchanged: count('unchanged') },
        ...{ skipped: count('skipped'), dropped: count('dropped') },
      }).toEqual({ recorded: encoded, unchanged: repeated, skipped, dropped });
      expect(frames.length).toBe(arrived + repeated);
      expect(frames.map(({ tUs }) => tUs)).toEqual([...frames.map(({ tUs }) => tUs)].sort((a, b) => a - b));
    }),
  );
});

it('places frames that never came between those that did, and leaves a frame without a packet dropped', () => {
  const trace = openTakeTrace(() => 0);
  trace.frames.screen.arrived({ tUs: 0, deliveryMs: 5, replaced: null, missed: 0 });
  trace.frames.screen.given(0);
  trace.frames.screen.packet({ tUs: 0, composeMs: 1, encodeMs: 9, bytes: 700, key: true });
  trace.frames.screen.arrived({ tUs: 100_000, deliveryMs: 6, replaced: null, missed: 2 });
  trace.frames.screen.given(100_000);
  trace.wrote({ atUs: 0, ms: 0.1, bytes: 10 });
  trace.wrote({ atUs: 50_000, ms: 12, bytes: 700 });
  trace.frames.camera.arrived({ tUs: 5000, deliveryMs: 30, replaced: null, missed: 0 });
  const { frames, cameraFrames, writes } = trace.end();
  expect(cameraFrames.map(unpackFrame)).toMatchObject([{ tUs: 5000, fate: 'dropped', deliveryMs: 30 }]);
  expect(frames.map(unpackFrame).map(({ tUs, fate }) => [tUs, fate])).toEqual([
    [0, 'recorded'],
    [33_333, 'missed'],
    [66_667, 'missed'],
    [100_000, 'dropped'],
  ]);
  expect(writes).toEqual([{ atUs: 50_000, ms: 12, bytes: 700 }]);
});
