/**
 * AVCDecoderConfigurationRecord, ISO/IEC 14496-15, 5.3.3.1.2: version, profile, compatibility, level and the size of lengths, then the
 * sequence and the picture parameter sets, each after 16 bits of length. `tail` is what the High profiles add: chroma format and bit depths.
 */
export type AvcConfiguration = {
  head: Uint8Array;
  sequence: Uint8Array[];
  picture: Uint8Array[];
  tail: Uint8Array;
};

/** Offset of level_idc, in the record and in a sequence parameter set after its one byte of NAL header (ITU-T H.264 7.3.2.1.1). */
const LEVEL_AT = 3;
const LEAST_SET = LEVEL_AT + 1;

/** @throws RangeError when the record is cut off */
export function readAvcConfiguration(record: Uint8Array): AvcConfiguration {
  let at = 5;
  const byte = (): number => {
    const value = record[at++];
    if (value === undefined) throw new RangeError('The record is cut off.');
    return value;
  };
  const sets = (count: number, least: number): Uint8Array[] =>
    Array.from({ length: count }, () => {
      const length = (byte() << 8) | byte();
      const set = record.slice(at, at + length);
      at += length;
      if (set.length < length || length < least) throw new RangeError('The record is cut off.');
      return set;
    });
  // Three reserved bits, then how many sequence parameter sets follow.
  const sequence = sets(byte() & 0x1f, LEAST_SET);
  const picture = sets(byte(), 1);
  return { head: record.slice(0, 5), sequence, picture, tail: record.slice(at) };
}

export function writeAvcConfiguration({
  head,
  sequence,
  picture,
  tail,
}: AvcConfiguration): Uint8Array<ArrayBuffer> {
  const sized = (sets: readonly Uint8Array[]) =>
    sets.flatMap((set) => [set.length >> 8, set.length & 0xff, ...set]);
  return Uint8Array.from([
    ...head,
    0xe0 | sequence.length,
    ...sized(sequence),
    picture.length,
    ...sized(picture),
    ...tail,
  ]);
}

/**
 * The record with another declared level. Encoders write the lowest that they need; a stream that keeps the limits of one level keeps
 * those of every higher one (ITU-T H.264 A.3), so a higher one may be declared without a changed picture.
 * @param level level_idc: ten times the level's name
 * @throws RangeError when the record is cut off
 */
export function withLevel(record: Uint8Array, level: number): Uint8Array<ArrayBuffer> {
  const read = readAvcConfiguration(record);
  // None of the bytes up to the level can need emulation prevention.
  for (const declared of [read.head, ...read.sequence]) declared[LEVEL_AT] = level;
  return writeAvcConfiguration(read);
}

const same = (a: Uint8Array, b: Uint8Array) => a.length === b.length && a.every((byte, i) => byte === b[i]);
const distinct = (sets: Uint8Array[]) =>
  sets.filter((set, i) => sets.findIndex((other) => same(set, other)) === i);

/**
 * One record for stretches of H.264 that were encoded differently: it holds the parameter sets of all, which tell themselves apart by
 * their numbers, and the highest level of them.
 * @param records one a stretch; at least one
 * @throws RangeError when there is none, or one is cut off
 */
export function joinedConfiguration(records: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const all = records.map(readAvcConfiguration);
  const [first] = all;
  if (!first) throw new RangeError('No stretch has a decoder configuration.');
  const head = Uint8Array.from(first.head);
  head[LEVEL_AT] = Math.max(...all.map((each) => each.head[LEVEL_AT] ?? 0));
  return writeAvcConfiguration({
    head,
    sequence: distinct(all.flatMap(({ sequence }) => sequence)),
    picture: distinct(all.flatMap(({ picture }) => picture)),
    tail: first.tail,
  });
}
