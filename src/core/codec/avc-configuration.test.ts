import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  joinedConfiguration,
  readAvcConfiguration,
  withLevel,
  writeAvcConfiguration,
} from './avc-configuration';

const bytes = (least: number, most: number) => fc.uint8Array({ minLength: least, maxLength: most });
const configuration = fc.record({
  head: bytes(5, 5),
  sequence: fc.array(bytes(4, 40), { minLength: 1, maxLength: 31 }),
  picture: fc.array(bytes(1, 20), { maxLength: 12 }),
  tail: fc.constantFrom(Uint8Array.of(), Uint8Array.of(0xfd, 0xf8, 0xf8, 0)),
});

it('reads what it wrote, and refuses every shorter beginning of it but for the tail', () => {
  fc.assert(
    fc.property(configuration, (given) => {
      const record = writeAvcConfiguration(given);
      expect(readAvcConfiguration(record)).toEqual(given);
      const needed = record.length - given.tail.length;
      for (const length of [0, 5, 6, Math.floor(needed / 2), needed - 1])
        expect(() => readAvcConfiguration(record.subarray(0, length))).toThrow(RangeError);
    }),
  );
});

/** A Constrained Baseline record of level 2.2 by hand: one sequence parameter set of five bytes, one picture parameter set of two. */
const RECORD = [
  ...[1, 0x42, 0xe0, 22, 0xff, 0xe1],
  ...[0, 5, 0x67, 0x42, 0xe0, 22, 0x8c],
  ...[1, 0, 2, 0x68, 0xce],
];

it('declares a level in the record and in its parameter set, and nothing else', () => {
  const record = Uint8Array.from(RECORD);
  const declared = withLevel(record, 31);
  expect([...declared].flatMap((byte, i) => (byte === record[i] ? [] : [i]))).toEqual([3, 11]);
  expect([declared[3], declared[11]]).toEqual([31, 31]);
  expect([...record]).toEqual(RECORD);
});

it('joins records: every parameter set once, the highest level, whatever their order', () => {
  fc.assert(
    fc.property(fc.array(configuration, { minLength: 1, maxLength: 3 }), (all) => {
      const joined = readAvcConfiguration(joinedConfiguration(all.map(writeAvcConfiguration)));
      const texts = (sets: readonly Uint8Array[]) => sets.map(String);
      const given = new Set(all.flatMap(({ sequence }) => texts(sequence)));
      fc.pre(given.size < 32);
      expect(texts(joined.sequence).sort()).toEqual([...given].sort());
      expect(new Set(texts(joined.picture))).toEqual(new Set(all.flatMap(({ picture }) => texts(picture))));
      expect(joined.head[3]).toBe(Math.max(...all.map(({ head }) => head[3] ?? 0)));
    }),
  );
  expect(() => joinedConfiguration([])).toThrow(RangeError);
});
