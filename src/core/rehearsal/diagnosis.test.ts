import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { frameAt, framesFor, LOST, traceOf } from '../../../tests/support/made-up-trace';
import { diagnose } from './diagnosis';
import type { FrameMark } from './frame-trace';

const stages = (trace: Parameters<typeof diagnose>[0]) => diagnose(trace).faults.map(({ stage }) => stage);

/** Every third frame between the third and the sixth second. */
const amid = (tS: number, n: number) => tS >= 3 && tS < 6 && n % 3 === 0;

describe('one fault', () => {
  for (const fps of [10, 15, 30, 60]) {
    const budget = 1000 / fps;
    const encoded = { encodeMs: budget * 1.4 };

    it(`finds a slow encoder at ${fps} fps`, () => {
      const frames = framesFor(8, fps, (tS, n) =>
        amid(tS, n) ? { ...LOST, fate: 'dropped' } : tS >= 3 && tS < 6 ? encoded : {},
      );
      const { faults } = diagnose(traceOf({ targetFps: fps, frames }));
      expect(faults).toMatchObject([{ stage: 'encoder', sureness: 'sure', lost: fps }]);
      expect(faults[0]?.evidence).toContain(`Encoding takes ${Math.round(budget * 1.4)} ms`);
    });

    it(`finds slow compositing at ${fps} fps, though packets are received late for it`, () => {
      const frames = framesFor(8, fps, (tS, n) =>
        amid(tS, n)
          ? { ...LOST, fate: n % 2 === 0 ? 'dropped' : 'missed' }
          : { composeMs: budget, encodeMs: budget },
      );
      expect(stages(traceOf({ targetFps: fps, frames }))).toEqual(['composition']);
    });

    it(`finds a slow disk at ${fps} fps by the writes that frames were lost in`, () => {
      const writes = [3, 4, 5].map((s) => ({ atUs: s * 1e6, ms: 6 * budget, bytes: 10_000 }));
      const inWrite = (tS: number) =>
        writes.some(({ atUs, ms }) => tS * 1e6 >= atUs && tS * 1e6 < atUs + ms * 1000);
      const frames = framesFor(8, fps, (tS) => (inWrite(tS) ? { ...LOST, fate: 'dropped' } : {}));
      expect(stages(traceOf({ targetFps: fps, frames, writes }))).toEqual(['writing']);
    });

    it(`finds a source that loses frames at ${fps} fps`, () => {
      const frames = framesFor(8, fps, (tS, n) => (amid(tS, n) ? { ...LOST, fate: 'missed' } : {}));
      expect(stages(traceOf({ targetFps: fps, frames }))).toEqual(['source']);
    });

    it(`finds a source that delivers in bunches at ${fps} fps, however quick the encoder is`, () => {
      const frames = framesFor(8, fps, (tS, n) =>
        amid(tS, n) ? { ...LOST, fate: 'dropped', deliveryMs: 4 * budget } : { encodeMs: budget / 4 },
      );
      expect(stages(traceOf({ targetFps: fps, frames }))).toEqual(['source']);
    });
  }

  it('finds a source that gives half of the frames in a regular beat', () => {
    const frames = framesFor(8, 15);
    const { faults } = diagnose(traceOf({ targetFps: 30, frames }));
    expect(faults).toMatchObject([{ stage: 'source' }]);
    expect(faults[0]?.evidence).toBe('The source gives 15 fps; the target is 30 fps.');
  });

  it('finds a source that is late, even where it loses nothing', () => {
    const frames = framesFor(8, 30, () => ({ deliveryMs: 400 }));
    expect(diagnose(traceOf({ frames })).faults).toMatchObject([{ stage: 'source', lost: 0 }]);
  });

  it('finds an upload that does not follow', () => {
    const upload = Array.from({ length: 30 }, (_, n) => ({
      ...{ atUs: n * 250_000, recordedBytes: n * 50_000, sentBytes: n * 15_000 },
    }));
    const { faults } = diagnose(traceOf({ frames: framesFor(8, 30), upload }));
    expect(faults).toMatchObject([{ stage: 'upload', lost: 0 }]);
  });
});

describe('no fault', () => {
  it('names none in a screen that rests, moves and is typed on', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            tS: fc.double({ min: 0, max: 10, noNaN: true }),
            bytes: fc.integer({ min: 60, max: 90_000 }),
          }),
          {
            maxLength: 60,
          },
        ),
        (changes) => {
          const frames = changes
            .sort((a, b) => a.tS - b.tS)
            // Nobody types, and nothing blinks, in a beat.
            .map(({ tS, bytes }, n) => ({ tS: tS + (n % 2) * 0.31, bytes }))
            .sort((a, b) => a.tS - b.tS)
            .map(
              ({ tS, bytes }) =>
                ({ ...framesFor(0.1, 10)[0], tUs: Math.round(tS * 1e6), bytes }) as FrameMark,
            );
          const { faults } = diagnose(traceOf({ frames, durationUs: 11_000_000 }));
          expect(faults).toEqual([]);
        },
      ),
    );
  });

  it('does not take a steady typist for a slow source', () => {
    // Some eight keys per second, as uneven as a hand is.
    const between = fc.array(fc.integer({ min: 70, max: 190 }), { minLength: 40, maxLength: 70 });
    fc.assert(
      fc.property(between, (steps) => {
        let atMs = 1200;
        const frames = steps.map((ms) => {
          atMs += ms;
          return frameAt(atMs * 1000, { bytes: 700 });
        });
        expect(stages(traceOf({ frames }))).toEqual([]);
      }),
    );
  });

  it('is not a fault that a screen stands still', () => {
    const still = framesFor(10, 1, () => ({ fate: 'unchanged', bytes: 90 }));
    expect(diagnose(traceOf({ frames: still }))).toEqual({ faults: [], warmUpLost: 0 });
    expect(diagnose(traceOf({ frames: [], durationUs: 10_000_000 }))).toEqual({ faults: [], warmUpLost: 0 });
  });

  it('is not a fault that a few frames are lost, or many while everything warms up', () => {
    const two = framesFor(10, 30, (_, n) => (n === 100 || n === 200 ? { ...LOST, fate: 'dropped' } : {}));
    expect(stages(traceOf({ frames: two }))).toEqual([]);
    const warming = framesFor(10, 30, (tS) => (tS < 0.9 ? { ...LOST, fate: 'dropped' } : {}));
    expect(diagnose(traceOf({ frames: warming }))).toEqual({ faults: [], warmUpLost: 27 });
  });
});

describe('several faults', () => {
  it('names the one that lost most where each of them lost only a few', () => {
    // Two of the encoder, one in a write and one of the source in 10 s.
    const writes = [{ atUs: 6e6, ms: 150, bytes: 9000 }];
    const frames = framesFor(10, 10, (_, n) =>
      n === 30 || n === 40
        ? { ...LOST, fate: 'dropped' }
        : n === 60
          ? { ...LOST, fate: 'dropped' }
          : n === 80
            ? { ...LOST, fate: 'missed' }
            : {},
    );
    const { faults } = diagnose(traceOf({ targetFps: 10, frames, writes }));
    expect(faults).toMatchObject([{ stage: 'encoder', lost: 2, sureness: 'likely' }]);
  });

  it('tells them in the order of what they cost, and never blames for more than was lost', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 9 }), fc.integer({ min: 2, max: 9 }), (every, other) => {
        const frames = framesFor(12, 30, (tS, n) => {
          if (tS >= 2 && tS < 6) return n % every === 0 ? { ...LOST, fate: 'dropped' } : { encodeMs: 60 };
          if (tS >= 7 && tS < 11) return n % other === 0 ? { ...LOST, fate: 'missed' } : {};
          return {};
        });
        const trace = traceOf({ frames });
        const { faults } = diagnose(trace);
        const lost = frames.filter(({ fate }) => fate === 'dropped' || fate === 'missed').length;
        const blamed = faults.map((fault) => fault.lost);
        expect(blamed.reduce((sum, n) => sum + n, 0)).toBeLessThanOrEqual(lost);
        expect([...blamed].sort((a, b) => b - a)).toEqual(blamed);
        expect(faults.map(({ stage }) => stage).sort()).toEqual(['encoder', 'source']);
      }),
    );
  });
});
