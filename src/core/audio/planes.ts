/** One after the other, as one array. */
export function joinedSamples(parts: readonly Float32Array[]): Float32Array<ArrayBuffer> {
  const all = new Float32Array(parts.reduce((sum, { length }) => sum + length, 0));
  let offset = 0;
  for (const part of parts) {
    all.set(part, offset);
    offset += part.length;
  }
  return all;
}
