/** The loudness of a mix, as ITU-R BS.1770-4 measures it. */
export type Loudness = { lufs: number; truePeakDbtp: number };

/** Levelling of a mix before it is encoded. */
export type Levelling = { gainDb: number; limitDbfs: number | null };
/** One that was tried, and the loudness that came out. */
export type Levelled = Levelling & { lufs: number };

/** Below this there is nothing but noise, which must not be made loud. */
const SILENT_LUFS = -55;
/** Encoding raises peaks a little; the limiter leaves room for that. */
const ENCODING_DB = 1;

/** A limiter that takes more than this of every further decibel away cannot be made louder. */
const LEAST_SHARE = 0.2;

/**
 * The gain that brings a mix to a loudness, with a limiter where its peaks would then be too high. A limiter makes it a little
 * quieter again: measure what came out and ask `levelledAgain`.
 */
export function levelling(target: Loudness, measured: Loudness): Levelling {
  if (measured.lufs < SILENT_LUFS) return { gainDb: 0, limitDbfs: null };
  const gainDb = target.lufs - measured.lufs;
  const ceiling = target.truePeakDbtp - ENCODING_DB;
  return { gainDb, limitDbfs: measured.truePeakDbtp + gainDb > ceiling ? ceiling : null };
}

/**
 * The levelling after some that were tried, by the secant of the last two: speech with high peaks gains less than a decibel by a
 * decibel, because the limiter takes its share.
 * @param tried what came out of each, in LUFS; at least one
 */
export function levelledAgain(
  target: Pick<Loudness, 'lufs'>,
  tried: readonly [Levelled, ...Levelled[]],
): Levelling {
  const last = tried.at(-1) ?? tried[0];
  const before = tried.at(-2);
  const raisedDb = before ? last.gainDb - before.gainDb : 0;
  const share = before && raisedDb !== 0 ? (last.lufs - before.lufs) / raisedDb : 1;
  const gainDb = last.gainDb + (target.lufs - last.lufs) / Math.min(1, Math.max(LEAST_SHARE, share));
  return { gainDb, limitDbfs: last.limitDbfs };
}
