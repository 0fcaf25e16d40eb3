import fc from 'fast-check';
import { expect, it } from 'vitest';
import { isDisposable, lengthBytesOf } from './avc-picture';

type Unit = { type: number; refIdc: number; body: Uint8Array };
const unit = fc.record({
  type: fc.constantFrom(1, 1, 5, 6, 9, 14),
  refIdc: fc.integer({ min: 0, max: 3 }),
  body: fc.uint8Array({ maxLength: 80 }),
});

/** As it lies in a file: each unit after its length. */
function packetOf(units: readonly Unit[], lengthBytes: number): Uint8Array {
  return Uint8Array.from(
    units.flatMap(({ type, refIdc, body }) => {
      const length = 1 + body.length;
      const sized = Array.from(
        { length: lengthBytes },
        (_, i) => (length >> (8 * (lengthBytes - 1 - i))) & 255,
      );
      return [...sized, (refIdc << 5) | type, ...body];
    }),
  );
}

it('a picture can be left out when none of its slices is kept for others, whatever else lies in its packet', () => {
  fc.assert(
    fc.property(fc.array(unit, { maxLength: 6 }), fc.constantFrom(1, 2, 4), (units, lengthBytes) => {
      const slices = units.filter(({ type }) => type === 1 || type === 5);
      const wanted = slices.length > 0 && slices.every(({ refIdc }) => refIdc === 0);
      expect(isDisposable(packetOf(units, lengthBytes), lengthBytes)).toBe(wanted);
    }),
  );
});

it('what is cut off, or holds no picture, is not left out', () => {
  expect(isDisposable(Uint8Array.of(), 4)).toBe(false);
  expect(isDisposable(Uint8Array.of(0, 0, 0, 2), 4)).toBe(false);
  // Lengths of nought would never end.
  expect(isDisposable(Uint8Array.of(0, 0, 0, 0, 0, 0, 0, 0, 1), 4)).toBe(false);
  expect(isDisposable(Uint8Array.of(0, 0, 0, 2, 0x01, 0x9a, 0, 0, 0, 2, 0x41, 0x9a), 4)).toBe(false);
});

it('the size of the lengths is read from the configuration', () => {
  expect([0xfc, 0xfd, 0xff].map((byte) => lengthBytesOf(Uint8Array.of(1, 0x42, 0xe0, 22, byte)))).toEqual([
    1, 2, 4,
  ]);
});
