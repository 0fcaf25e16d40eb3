import type { SegmentHead } from './take';

/**
 * Puts the segments of a take's tracks together into unbroken runs: a segment that continues the one before it in its track belongs to
 * the same run. A run is read as if it were one file.
 * @returns the runs, by the start of their first segment
 */
export function segmentRuns<S extends Pick<SegmentHead, 'track' | 'index' | 'startUs' | 'continues'>>(
  segments: readonly S[],
): [S, ...S[]][] {
  const runs: [S, ...S[]][] = [];
  const sorted = [...segments].sort((a, b) => a.track.localeCompare(b.track) || a.index - b.index);
  for (const segment of sorted) {
    const run = runs.at(-1);
    const before = run?.at(-1);
    if (
      run &&
      before &&
      segment.continues &&
      before.track === segment.track &&
      before.index + 1 === segment.index
    )
      run.push(segment);
    else runs.push([segment]);
  }
  return runs.sort((a, b) => a[0].startUs - b[0].startUs);
}
