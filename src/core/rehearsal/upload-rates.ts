import type { RehearsalTrace } from './frame-trace';

/** The first requests of a connection say little of what it sustains. */
const SETTLED_US = 1_000_000;
/** So little is a keyframe, or what one request carries: an upload that is no further behind follows. */
const FOLLOWS_BYTES = 20_000;

/**
 * What is recorded and what reaches the server, kb/s, after the upload has settled. An upload that catches up now and then follows,
 * however uneven what is recorded may be.
 * @returns null where too little was recorded to say anything
 */
export function uploadRates({
  upload,
}: Pick<RehearsalTrace, 'upload'>): { recordedKbps: number; sentKbps: number } | null {
  const settled = upload.filter(({ atUs }) => atUs >= SETTLED_US);
  const [first, last] = [settled[0], settled.at(-1)];
  if (!first || !last || last.atUs - first.atUs < SETTLED_US) return null;
  const kbps = (bytes: number) => (bytes * 8000) / (last.atUs - first.atUs);
  const recorded = last.recordedBytes - first.recordedBytes;
  if (recorded < FOLLOWS_BYTES) return null;
  const late = settled.slice(Math.floor((settled.length * 2) / 3));
  const follows = late.some(({ recordedBytes, sentBytes }) => recordedBytes - sentBytes <= FOLLOWS_BYTES);
  return {
    recordedKbps: kbps(recorded),
    sentKbps: follows ? kbps(recorded) : kbps(last.sentBytes - first.sentBytes),
  };
}
