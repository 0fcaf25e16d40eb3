import fc from 'fast-check';
import { expect, it } from 'vitest';
import { colourWindows, type Luma, textClarity, textWindows, videoClarity } from './clarity';

/** The definition, word by word: every window alone, every sum from the start. */
function slowly(reference: Luma, shown: Luma): { mean: number; windows: number } {
  const { width, height, data } = reference;
  const at = (x: number, y: number) => data[y * width + x] ?? 0;
  const isEdge = (x: number, y: number) => {
    if (x < 1 || y < 1 || x >= width - 1 || y >= height - 1) return false;
    const row = (dy: number) => at(x - 1, y + dy) + 2 * at(x, y + dy) + at(x + 1, y + dy);
    const column = (dx: number) => at(x + dx, y - 1) + 2 * at(x + dx, y) + at(x + dx, y + 1);
    return Math.abs(column(1) - column(-1)) + Math.abs(row(1) - row(-1)) >= 160;
  };
  const values: number[] = [];
  for (let y = 0; y + 8 <= height; y += 4)
    for (let x = 0; x + 8 <= width; x += 4) {
      const pixels = Array.from({ length: 64 }, (_, i) => [x + (i % 8), y + Math.floor(i / 8)] as const);
      if (pixels.filter(([px, py]) => isEdge(px, py)).length < 10) continue;
      const bands = pixels.map(([px, py]) => Math.floor(at(px, py) / 8));
      if (!bands.some((band) => bands.filter((other) => other === band).length >= 20)) continue;
      const a = pixels.map(([px, py]) => at(px, py));
      const b = pixels.map(([px, py]) => shown.data[py * width + px] ?? 0);
      const mean = (v: number[]) => v.reduce((sum, each) => sum + each, 0) / v.length;
      const [ma, mb] = [mean(a), mean(b)];
      const va = mean(a.map((v) => (v - ma) ** 2));
      const vb = mean(b.map((v) => (v - mb) ** 2));
      const cov = mean(a.map((v, i) => (v - ma) * ((b[i] ?? 0) - mb)));
      const [c1, c2] = [(0.01 * 255) ** 2, (0.03 * 255) ** 2];
      values.push(((2 * ma * mb + c1) * (2 * cov + c2)) / ((ma * ma + mb * mb + c1) * (va + vb + c2)));
    }
  return { mean: values.reduce((sum, v) => sum + v, 0) / values.length, windows: values.length };
}

/** The same for a colour plane: windows whose values are far apart, on flat ground. */
function colourSlowly({ width, height, data }: Luma): number[] {
  const found: number[] = [];
  for (let y = 0; y + 8 <= height; y += 4)
    for (let x = 0; x + 8 <= width; x += 4) {
      const at = Array.from({ length: 64 }, (_, i) => (y + Math.floor(i / 8)) * width + x + (i % 8));
      const values = at.map((each) => data[each] ?? 0);
      const bands = values.map((value) => Math.floor(value / 8));
      if (Math.max(...values) - Math.min(...values) < 32) continue;
      if (bands.some((band) => bands.filter((other) => other === band).length >= 20))
        found.push(y * width + x);
    }
  return found;
}

/** A level that is often one at which screens stand still, or an extreme. */
const level = fc.oneof(
  fc.constantFrom(0, 3, 7, 16, 126, 128, 235, 248, 255),
  fc.integer({ min: 0, max: 255 }),
);

/** Something like text or one block of ink, with something plain all around; of odd sizes and of whole words. */
const page = fc
  .record({
    width: fc.oneof(
      fc.integer({ min: 12, max: 60 }),
      fc.integer({ min: 3, max: 15 }).map((cells) => cells * 4),
    ),
    height: fc.integer({ min: 12, max: 44 }),
    ground: level,
    ink: level,
    ...{
      left: fc.nat({ max: 20 }),
      top: fc.nat({ max: 20 }),
      right: fc.nat({ max: 60 }),
      bottom: fc.nat({ max: 44 }),
    },
    isBlock: fc.boolean(),
    grain: fc.constantFrom(0, 0, 2, 6, 24),
    seed: fc.integer({ min: 1, max: 1e6 }),
    noise: fc.integer({ min: 0, max: 60 }),
  })
  .map(({ width, height, ground, ink, left, top, right, bottom, isBlock, grain, seed, noise }) => {
    let state = seed;
    const random = () => {
      state = (state * 48_271) % 2_147_483_647;
      return state / 2_147_483_647;
    };
    const grained = (value: number, most: number) =>
      Math.max(0, Math.min(255, value + Math.round((random() - 0.5) * most)));
    const isInk = (x: number, y: number) =>
      x >= left && x <= right && y >= top && y <= bottom && (isBlock || (x % 5 < 2 && y % 7 < 5));
    const data = new Uint8Array(width * height).map((_, i) =>
      grained(isInk(i % width, Math.floor(i / width)) ? ink : ground, grain),
    );
    const shown = data.map((v) => grained(v, noise));
    return { reference: { width, height, data }, shown: { width, height, data: shown } };
  });

it('is what its definition says, window by window', () => {
  fc.assert(
    fc.property(page, ({ reference, shown }) => {
      const fast = textClarity(reference, shown);
      const slow = slowly(reference, shown);
      expect(fast.windows).toBe(slow.windows);
      if (slow.windows > 0) expect(Math.abs(fast.mean - slow.mean)).toBeLessThan(1e-9);
      expect(fast.p5).toBeLessThanOrEqual(1);
    }),
    { numRuns: 300 },
  );
});

it('finds the windows with coloured edges that its definition finds, in planes of any size', () => {
  fc.assert(
    fc.property(page, ({ reference }) => {
      expect([...colourWindows(reference)]).toEqual(colourSlowly(reference));
    }),
    { numRuns: 300 },
  );
});

it('misses no window wherever ink begins and ends within what is passed over', () => {
  const offsets = [0, 1, 2, 3];
  for (const x of offsets)
    for (const y of offsets)
      for (const more of offsets) {
        const side = 12 + more;
        const isInk = (i: number) => {
          const [fromLeft, fromTop] = [(i % 40) - 12 - x, Math.floor(i / 40) - 12 - y];
          return fromLeft >= 0 && fromLeft < side && fromTop >= 0 && fromTop < side;
        };
        const block = {
          width: 40,
          height: 40,
          data: new Uint8Array(1600).map((_, i) => (isInk(i) ? 30 : 235)),
        };
        expect(textClarity(block, block).windows).toBe(slowly(block, block).windows);
        expect([...colourWindows(block)]).toEqual(colourSlowly(block));
      }
});

it('is 1 for the same picture, less for a worse one, and silent where there are no letters', () => {
  const flat = { width: 32, height: 32, data: new Uint8Array(1024).fill(90) };
  expect(textWindows(flat)).toHaveLength(0);
  expect(videoClarity([textClarity(flat, flat)])).toBeNull();
  const letters = { ...flat, data: flat.data.map((v, i) => (i % 6 < 2 ? 10 : v)) };
  const soft = { ...flat, data: letters.data.map((v) => (v < 50 ? 40 : 80)) };
  const same = textClarity(letters, letters);
  expect(same.mean).toBe(1);
  const worse = textClarity(letters, soft);
  expect(worse.mean).toBeLessThan(0.98);
  expect(videoClarity([same, worse])).toMatchObject({ worst: worse.mean, pictures: 2 });
  expect(() => textClarity(letters, { ...soft, width: 16 })).toThrow(/one size/);
});
