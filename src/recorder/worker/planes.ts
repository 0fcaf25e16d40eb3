/** A chunk's channels as floats; where fewer are wanted than came, one is the mean of all. */
export function planesOf(chunk: AudioData, most: number): Float32Array[] {
  const planes = Array.from({ length: chunk.numberOfChannels }, (_, planeIndex) => {
    const plane = new Float32Array(chunk.numberOfFrames);
    chunk.copyTo(plane, { planeIndex, format: 'f32-planar' });
    return plane;
  });
  if (planes.length <= most) return planes;
  if (most === 2) return planes.slice(0, 2);
  const mixed = new Float32Array(chunk.numberOfFrames);
  for (const plane of planes)
    for (let i = 0; i < mixed.length; i++) mixed[i] = (mixed[i] ?? 0) + (plane[i] ?? 0) / planes.length;
  return [mixed];
}
