/**
 * AVCDecoderConfigurationRecord, ISO/IEC 14496-15, 5.3.3.1: version, profile, compatibility, level, length size, then the sequence and
 * the picture parameter sets, each with 16 bits of length.
 */
type Sets = { head: Uint8Array; sequence: Uint8Array[]; picture: Uint8Array[]; tail: Uint8Array };

function read(record: Uint8Array): Sets {
  const view = new DataView(record.buffer, record.byteOffset, record.byteLength);
  let at = 6;
  const take = (count: number): Uint8Array[] =>
    Array.from({ length: count }, () => {
      const length = view.getUint16(at);
      const set = record.subarray(at + 2, at + 2 + length);
      at += 2 + length;
      return set;
    });
  const sequence = take((record[5] ?? 0) & 31);
  const count = record[at++] ?? 0;
  const picture = take(count);
  // Of the High profiles: chroma format and bit depths.
  return { head: record.subarray(0, 5), sequence, picture, tail: record.subarray(at) };
}

const same = (a: Uint8Array, b: Uint8Array) => a.length === b.length && a.every((byte, i) => byte === b[i]);
const distinct = (sets: Uint8Array[]) =>
  sets.filter((set, i) => sets.findIndex((other) => same(set, other)) === i);

/**
 * One decoder configuration for stretches of H.264 that were encoded differently: it holds the parameter sets of all, which tell
 * themselves apart by their numbers, and the highest level of them.
 * @param records one a stretch
 */
export function bothConfigurations(records: readonly Uint8Array[]): Uint8Array {
  const all = records.map(read);
  const [first] = all;
  if (!first) throw new Error('No stretch has a decoder configuration.');
  const sequence = distinct(all.flatMap((sets) => sets.sequence));
  const picture = distinct(all.flatMap((sets) => sets.picture));
  const head = Uint8Array.from(first.head);
  head[3] = Math.max(...all.map((sets) => sets.head[3] ?? 0));
  const sized = (sets: Uint8Array[]) =>
    sets.flatMap((set) => [Uint8Array.of(set.length >> 8, set.length & 255), set]);
  const parts = [
    head,
    Uint8Array.of(0xe0 | sequence.length),
    ...sized(sequence),
    Uint8Array.of(picture.length),
    ...sized(picture),
    first.tail,
  ];
  return Uint8Array.from(Buffer.concat(parts));
}
