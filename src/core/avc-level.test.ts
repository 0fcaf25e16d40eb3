import { expect, it } from 'vitest';
import { withLevel } from './avc-level';

it('declares a level in the record and in its parameter set, and nothing else', () => {
  const record = Uint8Array.of(
    1,
    0x42,
    0xe0,
    22,
    0xff,
    0xe1,
    0,
    5,
    0x67,
    0x42,
    0xe0,
    22,
    0x8c,
    1,
    0,
    2,
    0x68,
    0xce,
  );
  const declared = withLevel(record, 31);
  expect([...declared].flatMap((byte, i) => (byte === record[i] ? [] : [i]))).toEqual([3, 11]);
  expect([declared[3], declared[11]]).toEqual([31, 31]);
  expect(() => withLevel(record.subarray(0, 10), 31)).toThrow(RangeError);
});
