import type { RehearsalTrace } from './frame-trace';

/** The first requests of a connection say little of what it sustains. */
const SETTLED_US = 1_000_000;
/** So little is sent at once that its time is the connection's delay. */
const LEAST_BYTES = 20_000;

/**
 * What is recorded and what reaches the server, kb/s, after the upload has settled.
 * @returns null where too little was sent to say anything
 */
export function uploadRates({
  upload,
}: Pick<RehearsalTrace, 'upload'>): { recordedKbps: number; sentKbps: number } | null {
  const settled = upload.filter(({ atUs }) => atUs >= SETTLED_US);
  const [first, last] = [settled[0], settled.at(-1)];
  if (!first || !last || last.atUs - first.atUs < SETTLED_US) return null;
  const kbps = (bytes: number) => (bytes * 8000) / (last.atUs - first.atUs);
  const recorded = last.recordedBytes - first.recordedBytes;
  if (recorded < LEAST_BYTES) return null;
  // What was in arrears at first counts as sent only when it was.
  const behind = last.recordedBytes - last.sentBytes;
  return { recordedKbps: kbps(recorded), sentKbps: kbps(Math.max(0, recorded - Math.max(0, behind))) };
}
