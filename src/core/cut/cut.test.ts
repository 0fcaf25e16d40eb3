import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { StepId, TakeId } from '../base/ids';
import {
  at,
  Cut,
  cutLengthUs,
  PLAIN_STEP,
  placedPieces,
  placedSteps,
  recordedBytes,
  shownLengthsUs,
  stepTitle,
  whereSeen,
} from './cut';
import { canSplit, join, keep, moveEnd, remove, split } from './edits';
import { headsAndTails } from './heads-and-tails';
import { begin, push, redo, undo } from './history';
import type { Piece } from './piece';
import { moveSteps } from './whole-steps';

const step = (id: string, pieces: Piece[]) => ({
  ...PLAIN_STEP,
  id: id as StepId,
  title: id,
  pieces,
  layout: { kind: 'screen' as const },
  gains: { voiceDb: 0, appSoundDb: 0 },
});
const piece = (take: string, inUs: number, outUs: number): Piece => ({ take: take as TakeId, inUs, outUs });

/** Cuts of one to four steps; the pieces of a take are in order and apart, as recording and cutting make them. */
const cuts: fc.Arbitrary<Cut> = fc
  .array(
    fc.array(fc.tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 1, max: 50 })), {
      minLength: 1,
      maxLength: 4,
    }),
    {
      minLength: 1,
      maxLength: 4,
    },
  )
  .map((steps) => {
    let clock = 0;
    return {
      version: 4 as const,
      marks: [],
      steps: steps.map((pieces, i) =>
        step(
          `s${i}`,
          pieces.map(([gap, length]) => {
            const inUs = clock + gap;
            clock = inUs + length;
            return piece('a', inUs, clock);
          }),
        ),
      ),
    };
  });
/** A cut and two places in it, the first before the second. */
const ranges = cuts.chain((cut) =>
  fc
    .tuple(fc.integer({ min: 0, max: cutLengthUs(cut) - 1 }), fc.integer({ min: 1, max: cutLengthUs(cut) }))
    .filter(([a, b]) => a < b)
    .map(([from, to]) => ({ cut, from, to })),
);
/** The instants of takes that are seen, in order: the meaning of a cut. */
const seen = (cut: Cut): string[] =>
  placedPieces(cut).flatMap(({ piece: { take, inUs, outUs } }) =>
    Array.from({ length: outUs - inUs }, (_, i) => `${take}${inUs + i}`),
  );

describe('edits of a cut', () => {
  it('removing and keeping a range take exactly that range out, or leave exactly it', () => {
    fc.assert(
      fc.property(ranges, ({ cut, from, to }) => {
        const all = seen(cut);
        expect(seen(keep(cut, from, to))).toEqual(all.slice(from, to));
        if (to - from === all.length) expect(() => remove(cut, from, to)).toThrow('Nothing of the video');
        else expect(seen(remove(cut, from, to))).toEqual([...all.slice(0, from), ...all.slice(to)]);
      }),
    );
  });
  it('splitting, joining again and moving steps change no instant', () => {
    fc.assert(
      fc.property(ranges, ({ cut, from }) => {
        const two = split(cut, from, 'new' as StepId);
        expect(seen(two)).toEqual(seen(cut));
        // The button is offered where something comes of it: in these steps, at every instant but their borders.
        expect(two !== cut).toBe(canSplit(placedSteps(cut), from));
        if (two !== cut) {
          expect(two.steps.length).toBe(cut.steps.length + 1);
          const one = join(two, 'new' as StepId);
          expect(seen(one)).toEqual(seen(cut));
          expect(one.steps.length).toBe(cut.steps.length);
        }
        const [first] = cut.steps;
        if (first) expect([...seen(moveSteps(cut, [first.id], null))].sort()).toEqual([...seen(cut)].sort());
      }),
    );
  });
  it('no instant is seen twice, and each is found where it is seen', () => {
    fc.assert(
      fc.property(ranges, ({ cut, from, to }) => {
        const edited =
          to - from === cutLengthUs(cut) ? cut : remove(split(cut, from, 'new' as StepId), from, to);
        const all = seen(edited);
        expect(new Set(all).size).toBe(all.length);
        all.forEach((instant, us) => {
          const { takeUs } = at(edited, us);
          expect(`a${takeUs}`).toBe(instant);
          expect(whereSeen(edited, 'a' as TakeId, takeUs)).toBe(us);
        });
      }),
    );
  });
  it('undo and redo are exact', () => {
    fc.assert(
      fc.property(ranges, ({ cut, from, to }) => {
        const edits = [keep(cut, from, to), split(keep(cut, from, to), 1, 'x' as StepId)];
        const done = edits.reduce(push, begin(cut));
        const steps = done.past.length;
        let back = done;
        for (let i = 0; i < steps; i++) back = undo(back);
        expect(back.now).toBe(cut);
        for (let i = 0; i < steps; i++) back = redo(back);
        expect(back.now).toBe(done.now);
        expect(undo(begin(cut)).now).toBe(cut);
      }),
    );
  });
  it('moves an end outwards over what was trimmed, and never past the take or the other end', () => {
    const one = step('s', [piece('a', 1_000_000, 5_000_000)]);
    const { id } = one;
    const cut = { version: 4 as const, marks: [], steps: [one] };
    expect(moveEnd(cut, id, 'start', 200_000, 8_000_000).steps[0]?.pieces[0]?.inUs).toBe(200_000);
    expect(moveEnd(cut, id, 'end', 9_000_000, 8_000_000).steps[0]?.pieces[0]?.outUs).toBe(8_000_000);
    expect(moveEnd(cut, id, 'start', 7_000_000, 8_000_000).steps[0]?.pieces[0]?.inUs).toBe(4_980_000);
  });
});

describe('heads and tails', () => {
  /** Ten seconds at 50 per second: room noise, a click at 0.5 s, speech with pauses from 2 to 7 s. */
  const voice = {
    perSecond: 50,
    values: Array.from({ length: 500 }, (_, i) => {
      if (i === 25) return 200;
      const spoken = i >= 100 && i < 350 && i % 40 < 30;
      return spoken ? 60 + (i % 7) * 10 : 2 + (i % 3);
    }),
  };
  it('proposes a breath before the first speech and a moment after the last; a click is no speech', () => {
    const proposed = headsAndTails(voice, [], 10_000_000);
    expect(proposed?.inUs).toBeCloseTo(2_000_000 - 350_000, -5);
    expect(proposed?.outUs).toBeGreaterThan(7_000_000);
    expect(proposed?.outUs).toBeLessThan(8_000_000);
  });
  it('keeps marks inside, and says nothing where there is nothing to gain or nobody speaks', () => {
    expect(headsAndTails(voice, [100_000, 9_950_000], 10_000_000)).toBeNull();
    expect(headsAndTails(voice, [300_000], 10_000_000)?.inUs).toBe(300_000);
    expect(headsAndTails({ perSecond: 50, values: voice.values.slice(100, 350) }, [], 5_000_000)).toBeNull();
    expect(headsAndTails({ perSecond: 50, values: Array(500).fill(3) }, [], 10_000_000)).toBeNull();
    expect(headsAndTails(null, [], 10_000_000)).toBeNull();
  });
});

describe('what a reader sees of the steps', () => {
  it('lengths in whole seconds add up to the length of the video', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 90_000_000 }), { minLength: 1, maxLength: 12 }),
        (lengths) => {
          const cut: Cut = {
            version: 4,
            marks: [],
            steps: lengths.map((us, i) => step(`s${i}`, [piece('a', 0, us)])),
          };
          const shown = shownLengthsUs(cut);
          const sum = shown.reduce((all, us) => all + us, 0);
          expect(sum).toBe(Math.floor(cutLengthUs(cut) / 1e6) * 1e6);
          shown.forEach((us, i) => {
            expect(Math.abs(us - (lengths[i] ?? 0))).toBeLessThan(1e6);
          });
        },
      ),
    );
  });

  it('a step without a name is called by its place, wherever it was split off or moved to', () => {
    const cut = Cut.parse({
      version: 1,
      steps: ['The whole take', 'Step 3', 'Water them'].map((title) => ({
        ...step('s', [piece('A'.repeat(22), 0, 5)]),
        id: `${title.length}`.padEnd(22, 'B'),
        title,
      })),
    });
    const titles = (of: Cut) => of.steps.map(({ id }) => stepTitle(of, id));
    expect(titles(cut)).toEqual(['Step 1', 'Step 2', 'Water them']);
    const [first, , last] = cut.steps;
    const moved = moveSteps(cut, [last?.id as StepId], first?.id as StepId);
    expect(titles(moved)).toEqual(['Water them', 'Step 2', 'Step 3']);
    expect(titles(split(cut, 2, 'new' as StepId))).toEqual(['Step 1', 'Step 2', 'Step 3', 'Water them']);
  });
});

describe('an older document', () => {
  const old = (layout: object, title = 'Sow') => ({
    version: 1,
    steps: [{ ...step('B'.repeat(22), [piece('A'.repeat(22), 0, 5)]), title, layout }],
  });

  it('of version 1 gets the key that its layouts did not have, and everything else stays', () => {
    const beside = { kind: 'side-by-side', camera: 'left', mirror: true };
    expect(Cut.parse(old(beside)).steps[0]?.layout).toEqual({ ...beside, key: null });
    expect(Cut.parse(old({ kind: 'screen' })).steps[0]).toMatchObject({
      title: 'Sow',
      layout: { kind: 'screen' },
    });
  });

  it('of version 2 keeps a title that looks like a place: somebody typed it', () => {
    const now = Cut.parse({ ...old({ kind: 'screen' }, 'Step 7'), version: 2 });
    expect(now.steps[0]?.title).toBe('Step 7');
    expect(Cut.parse(now)).toEqual(now);
  });

  it('that is no cut is refused', () => {
    for (const nothing of [
      null,
      1,
      [],
      { version: 1 },
      { version: 1, steps: [4] },
      { version: 4, marks: [], steps: [] },
    ])
      expect(Cut.safeParse(nothing).success).toBe(false);
  });
});

describe('bytes of the takes that a cut shows', () => {
  it('a cut that shows every take once comes to all their bytes, and parts of it add up', () => {
    fc.assert(
      fc.property(cuts, fc.integer({ min: 1, max: 1e9 }), (cut, bytes) => {
        const lengthUs = cutLengthUs(cut);
        const takes = [{ id: 'a' as TakeId, durationUs: lengthUs, bytes }];
        expect(Math.abs(recordedBytes(cut, takes) - bytes)).toBeLessThanOrEqual(1);
        const half = Math.floor(lengthUs / 2);
        if (half === 0) return;
        const parts = [keep(cut, 0, half), keep(cut, half, lengthUs)].map((part) =>
          recordedBytes(part, takes),
        );
        expect(Math.abs((parts[0] ?? 0) + (parts[1] ?? 0) - bytes)).toBeLessThanOrEqual(2);
      }),
    );
  });
});
