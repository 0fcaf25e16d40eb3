/**
 * An AVCDecoderConfigurationRecord (ISO/IEC 14496-15, 5.3.3.1.2) that declares a level. Encoders write the lowest that they need; a
 * stream that keeps the limits of one level keeps those of every higher one (ITU-T H.264 A.3), so a higher one may be declared
 * without a changed picture.
 * @param level level_idc: ten times the level's name
 * @throws RangeError when the record is cut off
 */
export function withLevel(record: Uint8Array, level: number): Uint8Array<ArrayBuffer> {
  const declared = new Uint8Array(record);
  declared[3] = level;
  // Five reserved bits, then how many sequence parameter sets follow, each after its length.
  const count = (record[5] ?? 0) & 0x1f;
  let at = 6;
  for (let i = 0; i < count; i++) {
    const length = ((record[at] ?? 0) << 8) | (record[at + 1] ?? 0);
    if (length < 4 || at + 2 + length > record.length) throw new RangeError('The record is cut off.');
    // nal_unit header, profile_idc, constraint flags, level_idc (7.3.2.1.1); none of them can need emulation prevention.
    declared[at + 2 + 3] = level;
    at += 2 + length;
  }
  return declared;
}
