import { percentile } from '@/core/base/percentile';
import { missingBetween } from '@/core/recording/sequence';

/** What a picture track's ledger and figures say besides what pacing counts: losses before it, when frames went, how long encoding took. */
export type FrameAccount = {
  /** A picture of the take came. @returns how many the source has lost since the one before */
  readonly arrived: (timestampUs: number) => number;
  /** The take begins with this picture, or goes on with it: what was lost before it was not lost to the take. */
  readonly beginsWith: (timestampUs: number | null) => void;
  /** Frames were dropped or lost at this time of the take. */
  readonly droppedAt: (tUs: number) => void;
  readonly encoded: (tookMs: number) => void;
  /** Encode times, ms: of the last pictures, or of all. */
  readonly encodeMs: (of: 'last' | 'all') => { encodeP50Ms: number; encodeP95Ms: number };
  readonly ledger: () => { lostBefore: number | null; droppedAtS: number[] };
};

/** The figures on the screen are those of so many pictures. */
const LAST = 60;

/** @param sequenced whether the source's timestamps carry sequence numbers */
export function openFrameAccount(sequenced: boolean): FrameAccount {
  let lostBefore = 0;
  let lastTimestampUs: number | null = null;
  /** Seconds of the take in which something was dropped or lost. */
  const droppedAtS = new Set<number>();
  const all: number[] = [];
  return {
    arrived: (timestampUs) => {
      const missing =
        sequenced && lastTimestampUs !== null ? missingBetween(lastTimestampUs, timestampUs) : 0;
      lostBefore += missing;
      lastTimestampUs = timestampUs;
      return missing;
    },
    beginsWith: (timestampUs) => {
      lastTimestampUs = timestampUs;
    },
    droppedAt: (tUs) => {
      droppedAtS.add(Math.floor(Math.max(0, tUs) / 1e6));
    },
    encoded: (tookMs) => {
      all.push(tookMs);
    },
    encodeMs: (of) => {
      const times = of === 'all' ? all : all.slice(-LAST);
      return { encodeP50Ms: percentile(times, 0.5), encodeP95Ms: percentile(times, 0.95) };
    },
    ledger: () => ({
      lostBefore: sequenced ? lostBefore : null,
      droppedAtS: [...droppedAtS].sort((a, b) => a - b),
    }),
  };
}
