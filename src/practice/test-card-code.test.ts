import fc from 'fast-check';
import { expect, it } from 'vitest';
import { frameTimeUs } from '@/core/base/rational';
import { CARD_RATE, cardFrameAt, codeCells, readCard } from './test-card-code';

/** Of a day at the card's rate, within the bits that its number has. */
const frames = fc.integer({ min: 1, max: 1_000_000 });

it('shows each frame’s own number at its time and until the next one, however late in the day', () => {
  fc.assert(
    fc.property(frames, (n) => {
      const us = frameTimeUs(n, CARD_RATE);
      expect(cardFrameAt(us / 1000)).toBe(n);
      expect(cardFrameAt((us - 2) / 1000)).toBe(n - 1);
    }),
    { numRuns: 5000 },
  );
});

it('is read with the number that was drawn, also in twice the pixels, and not at all where a cell is wrong', () => {
  const sizes = fc.constantFrom(
    { width: 160, height: 90 },
    { width: 320, height: 180 },
    { width: 640, height: 360 },
  );
  fc.assert(
    fc.property(frames, sizes, fc.constantFrom(1, 2), fc.nat(23), (n, size, times, wrong) => {
      const area = { width: size.width * times, height: size.height * times };
      const draw = (turned: number | null) => {
        const luma = new Uint8Array(area.width * area.height).fill(128);
        for (const [i, { box, white }] of codeCells(n, size).entries())
          for (let y = box.y * times; y < (box.y + box.height) * times; y++) {
            const row = y * area.width;
            luma.fill(
              white !== (i === turned) ? 235 : 16,
              row + box.x * times,
              row + (box.x + box.width) * times,
            );
          }
        return readCard(luma, area).frame;
      };
      expect(draw(null)).toBe(n);
      // The first two cells tell what is white.
      expect(draw(wrong + 2)).toBeNull();
    }),
  );
});
