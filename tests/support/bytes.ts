/** Whether two arrays hold the same bytes, however many: an assertion on each of millions of numbers takes seconds. */
export const sameBytes = (one: ArrayBufferView | undefined, other: ArrayBufferView | undefined): boolean =>
  one !== undefined && other !== undefined && asBytes(one).equals(asBytes(other));

const asBytes = ({ buffer, byteOffset, byteLength }: ArrayBufferView) =>
  Buffer.from(buffer as ArrayBuffer, byteOffset, byteLength);
