/** Types of NAL units that hold a slice (ITU-T H.264, table 7-1): the first, and that of a picture at which decoding can begin. */
const SLICE = 1;
const IDR_SLICE = 5;

/**
 * Whether every later picture of a stream can be decoded without this one: "nal_ref_idc equal to 0 for a NAL unit containing a slice …
 * indicates that the slice … is part of a non-reference picture" (ITU-T H.264 7.4.1).
 * @param packet NAL units, each after its length (ISO/IEC 14496-15, 5.3.4.2)
 * @param lengthBytes of each length: 1, 2 or 4, as the decoder's configuration says
 * @returns false for what holds no picture, or is cut off
 */
export function isDisposable(packet: Uint8Array, lengthBytes: number): boolean {
  let slices = 0;
  for (let at = 0; at < packet.length; ) {
    let length = 0;
    for (let i = 0; i < lengthBytes; i++) length = length * 256 + (packet[at + i] ?? 0);
    const header = packet[at + lengthBytes];
    if (header === undefined || length === 0) return false;
    const type = header & 0x1f;
    if (type >= SLICE && type <= IDR_SLICE) {
      if ((header >> 5) & 3) return false;
      slices++;
    }
    at += lengthBytes + length;
  }
  return slices > 0;
}

/** Bytes of each length in the packets of a stream (ISO/IEC 14496-15, 5.3.3.1.2: lengthSizeMinusOne). @param record its AVC configuration */
export const lengthBytesOf = (record: Uint8Array): number => ((record[4] ?? 0) & 3) + 1;
