/** The loudness of a mix, as ITU-R BS.1770-4 measures it. */
export type Loudness = { lufs: number; truePeakDbtp: number };

/** Levelling of a mix before it is encoded. */
export type Levelling = { gainDb: number; limitDbfs: number | null };

/** Below this there is nothing but noise, which must not be made loud. */
const SILENT_LUFS = -55;
/** Encoding raises peaks a little; the limiter leaves room for that. */
const ENCODING_DB = 1;

/**
 * The gain that brings a mix to a loudness, with a limiter where its peaks would then be too high. A limiter makes it a little
 * quieter again: measure what came out and ask once more, with the levelling of before.
 */
export function levelling(
  target: Loudness,
  measured: Pick<Loudness, 'lufs'> & { truePeakDbtp: number | null },
  before: Levelling = { gainDb: 0, limitDbfs: null },
): Levelling {
  if (measured.lufs < SILENT_LUFS) return { gainDb: 0, limitDbfs: null };
  const gainDb = before.gainDb + target.lufs - measured.lufs;
  const ceiling = target.truePeakDbtp - ENCODING_DB;
  const limited =
    before.limitDbfs !== null ||
    (measured.truePeakDbtp !== null && measured.truePeakDbtp + gainDb - before.gainDb > ceiling);
  return { gainDb, limitDbfs: limited ? ceiling : null };
}
