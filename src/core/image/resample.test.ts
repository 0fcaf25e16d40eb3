import fc from 'fast-check';
import { expect, it } from 'vitest';
import { openResampler, ScaleFilter, weight } from './resample';

const side = fc.integer({ min: 2, max: 40 });
const size = fc.record({ width: side, height: side });
const filters = fc.constantFrom(...ScaleFilter.options);
const scaled = (
  data: Uint8Array,
  from: { width: number; height: number },
  to: { width: number; height: number },
  filter: ScaleFilter,
) => {
  const made = new Uint8Array(to.width * to.height);
  openResampler(
    from,
    to,
    filter,
  )({ data, offset: 0, stride: from.width }, { data: made, offset: 0, stride: to.width });
  return made;
};

it('leaves what is flat flat, and what has its size as it is', () => {
  fc.assert(
    fc.property(size, size, filters, fc.integer({ min: 0, max: 255 }), (from, to, filter, level) => {
      const flat = new Uint8Array(from.width * from.height).fill(level);
      expect(new Set(scaled(flat, from, to, filter))).toEqual(new Set([level]));
      const noise = flat.map((_, i) => (i * 7919 + level) % 256);
      expect(scaled(noise, from, from, filter)).toEqual(noise);
    }),
  );
});

it('keeps a slope where it was, to a level, away from the edges', () => {
  const from = { width: 240, height: 4 };
  const slope = new Uint8Array(from.width * from.height).map((_, i) => i % from.width);
  for (const filter of ScaleFilter.options)
    for (const width of [60, 96, 160, 480]) {
      const made = scaled(slope, from, { width, height: 4 }, filter);
      for (let x = Math.ceil(width / 8); x < (width * 7) / 8; x++)
        expect(Math.abs((made[2 * width + x] ?? 0) - (((x + 0.5) * 240) / width - 0.5))).toBeLessThan(1.01);
    }
  expect(weight('lanczos', 1)).toBeCloseTo(0);
  expect(weight('bicubic', 0.5)).toBeCloseTo(0.5625);
});
