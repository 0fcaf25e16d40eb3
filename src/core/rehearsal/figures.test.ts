import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { frameAt, framesFor, LOST, traceOf } from '../../../tests/support/made-up-trace';
import { figuresOf, isTooStill } from './figures';
import { FATES, type FrameMark, packFrame, RehearsalTrace, unpackFrame } from './frame-trace';

const Frame = fc.record<FrameMark>({
  tUs: fc.integer({ min: 0, max: 20_000_000 }),
  fate: fc.constantFrom(...FATES),
  deliveryMs: fc.double({ min: 0, max: 2000, noNaN: true }),
  waitMs: fc.double({ min: 0, max: 500, noNaN: true }),
  composeMs: fc.double({ min: 0, max: 500, noNaN: true }),
  encodeMs: fc.double({ min: 0, max: 500, noNaN: true }),
  bytes: fc.integer({ min: 0, max: 1_000_000 }),
  key: fc.boolean(),
});

it('packs a frame into figures and back, to a tenth of a millisecond', () => {
  fc.assert(
    fc.property(Frame, (frame) => {
      const back = unpackFrame(packFrame(frame));
      for (const key of ['deliveryMs', 'waitMs', 'composeMs', 'encodeMs'] as const)
        expect(Math.abs(back[key] - frame[key])).toBeLessThanOrEqual(0.0501);
      expect({ ...back, deliveryMs: 0, waitMs: 0, composeMs: 0, encodeMs: 0 }).toEqual({
        ...frame,
        ...{ deliveryMs: 0, waitMs: 0, composeMs: 0, encodeMs: 0 },
      });
    }),
  );
});

describe('figures', () => {
  it('account for every frame after the warm-up, and the parser takes what was packed', () => {
    fc.assert(
      fc.property(fc.array(Frame, { maxLength: 200 }), (frames) => {
        const trace = RehearsalTrace.parse(traceOf({ frames, durationUs: 20_000_000 }));
        const figures = figuresOf(trace);
        const { onTime, late, unchanged, skipped, dropped, missed } = figures;
        const judged = frames.filter(({ tUs }) => tUs >= 1_000_000).length;
        expect(onTime + late + unchanged + skipped + dropped + missed).toBe(judged);
        expect(figures.recordedFps).toBeGreaterThanOrEqual(0);
        expect(figures.recordedFps).toBeLessThanOrEqual(figures.targetFps);
        expect((figures.idle?.frames ?? 0) + (figures.busy?.frames ?? 0)).toBeLessThanOrEqual(onTime + late);
      }),
    );
  });

  it('say the target less what was lost, the size a minute and the times of quiet and busy frames', () => {
    const frames = framesFor(10, 30, (tS, n) =>
      tS > 5 && n % 3 === 0
        ? { ...LOST, fate: 'dropped' }
        : n % 2 === 0
          ? { bytes: 500 }
          : { bytes: 9000, encodeMs: 20 },
    );
    const figures = figuresOf(traceOf({ frames, durationUs: 10_000_000 }));
    const [kept, lost] = [figures.onTime + figures.late, figures.dropped];
    expect(figures.recordedFps).toBeCloseTo((30 * kept) / (kept + lost), 6);
    expect(figures.bytesPerMinute).toBe(frames.reduce((sum, { bytes }) => sum + bytes, 0) * 6);
    expect(figures.idle?.encode).toBe(8);
    expect(figures.busy?.encode).toBe(20);
  });

  it('add up what held the recorder up', () => {
    const longTasks = [70, 90].map((ms, n) => ({ atUs: n * 1e6, ms }));
    const soundGaps = [{ atUs: 2e6, ms: 120, track: 'voice' as const }];
    const writes = [3, 9, 40].map((ms, n) => ({ atUs: n * 1e6, ms, bytes: 1000 }));
    expect(figuresOf(traceOf({ frames: [], longTasks, soundGaps, writes }))).toMatchObject({
      ...{ longTasksMs: 160, soundGapsMs: 120, writeP50Ms: 9, writeMostMs: 40 },
    });
  });

  it('say how long the server would still need', () => {
    const upload = [
      { atUs: 0, recordedBytes: 0, sentBytes: 0 },
      { atUs: 4_000_000, recordedBytes: 600_000, sentBytes: 400_000 },
    ];
    expect(figuresOf(traceOf({ frames: [], upload })).uploadBehindMs).toBe(2000);
    expect(figuresOf(traceOf({ frames: [] })).uploadBehindMs).toBeNull();
  });

  it('tell a rehearsal in which hardly anything moved', () => {
    const still = figuresOf(traceOf({ frames: [frameAt(0, { key: true })], durationUs: 10_000_000 }));
    expect(isTooStill(still, 10_000_000)).toBe(true);
    const caret = figuresOf(traceOf({ frames: framesFor(10, 2, () => ({ bytes: 200 })) }));
    expect(isTooStill(caret, 10_000_000)).toBe(true);
    const moving = figuresOf(traceOf({ frames: framesFor(10, 30, (tS) => (tS > 3 && tS < 7 ? {} : null)) }));
    expect(isTooStill(moving, 10_000_000)).toBe(false);
  });

  it('do not count what a quicker source lost where the target was recorded nevertheless', () => {
    // 30 fps come for 10 that are wanted: two of three are skipped, and some of those never arrive.
    const frames = framesFor(8, 30, (tS, n) =>
      n % 3 === 0 ? {} : { ...LOST, fate: tS > 4 ? 'missed' : 'skipped' },
    );
    expect(figuresOf(traceOf({ targetFps: 10, frames }))).toMatchObject({
      missed: 0,
      dropped: 0,
      recordedFps: 10,
    });
    // Where one that was wanted is among them, its gap is a loss.
    const gap = framesFor(8, 30, (tS, n) =>
      n % 3 === 0 && tS < 4 ? {} : { ...LOST, fate: tS > 4 ? 'missed' : 'skipped' },
    );
    expect(figuresOf(traceOf({ targetFps: 10, frames: gap })).missed).toBeGreaterThan(50);
  });
});
