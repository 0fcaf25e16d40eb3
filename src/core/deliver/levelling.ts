/** The loudness of a mix, as ITU-R BS.1770-4 measures it. */
export type Loudness = { lufs: number; truePeakDbtp: number };

/** Levelling of a mix before it is encoded. */
export type Levelling = { gainDb: number; limitDbfs: number | null };
/** One that was tried, and the loudness that came out. */
type Levelled = Levelling & { lufs: number };

/** Below this there is nothing but noise, which must not be made loud. */
const SILENT_LUFS = -55;
/** Encoding raises peaks a little; the limiter leaves room for that. */
const ENCODING_DB = 1;

/** A limiter that takes more than this of every further decibel away cannot be made louder. */
const LEAST_SHARE = 0.2;

/**
 * The gain that brings a mix to a loudness, with a limiter where its peaks would then be too high. A limiter makes it a little
 * quieter again: `settleLevelling` measures what comes out.
 */
export function levelling(target: Loudness, measured: Loudness): Levelling {
  if (measured.lufs < SILENT_LUFS) return { gainDb: 0, limitDbfs: null };
  const gainDb = target.lufs - measured.lufs;
  const ceiling = target.truePeakDbtp - ENCODING_DB;
  return { gainDb, limitDbfs: measured.truePeakDbtp + gainDb > ceiling ? ceiling : null };
}

/** How many decibels of loudness a decibel of gain brought, from one that was tried to another. */
function shareOf(one: Levelled, other: Levelled): number {
  if (one.gainDb === other.gainDb) return 1;
  const share = (other.lufs - one.lufs) / (other.gainDb - one.gainDb);
  return Math.min(1, Math.max(LEAST_SHARE, share));
}

/** Gains that are forecast at once, above the one that would do without a limiter: to start a program takes as long as to meter ten seconds. */
const LADDER_DB = [0, 1.5, 4];
/** Where none of them is loud enough: so many times in all, each so much further up. */
const LADDERS = 2;
const NEXT_LADDER_DB = 5.5;
const NEAR_LU = 0.1;
/** Attempts on the finished file. */
const FILE_ROUNDS = 3;

type Forecast = (levels: readonly Levelling[]) => Promise<(number | null)[]>;

/**
 * Finds the gain of a limited levelling on the mix, then tries it on the file itself, whose encoder has a say too. Speech with high peaks gains
 * less than a decibel by a decibel, because the limiter takes its share.
 * @param mixLufs of the mix as it is
 * @param forecast loudness of the mix behind each of some levellings, LUFS; null for silence
 * @param encode makes the file, and gives its loudness; the last one that was made stays
 */
export async function settleLevelling(
  { lufs: target, toleranceLu }: { lufs: number; toleranceLu: number },
  first: Levelling,
  mixLufs: number,
  forecast: Forecast,
  encode: (level: Levelling) => Promise<number | null>,
): Promise<void> {
  let { gainDb, share } = await foreseen(target, first, mixLufs, forecast);
  let before: Levelled | null = null;
  for (let round = 0; round < FILE_ROUNDS; round++) {
    const lufs = await encode({ ...first, gainDb });
    if (lufs === null || Math.abs(lufs - target) <= toleranceLu / 2) return;
    // What a file is louder or quieter by than its forecast says nothing of what more gain brings; another file does.
    const made: Levelled = { ...first, gainDb, lufs };
    if (before) share = shareOf(before, made);
    before = made;
    gainDb += (target - lufs) / share;
  }
}

/** The gain between two that were tried, or beyond the last, and what a decibel brings there. */
async function foreseen(
  target: number,
  first: Levelling,
  mixLufs: number,
  forecast: Forecast,
): Promise<{ gainDb: number; share: number }> {
  const tried: Levelled[] = [{ gainDb: 0, limitDbfs: null, lufs: mixLufs }];
  /** Of the limited ones: a mix that is loud enough as it is becomes quieter. */
  const firstLoudEnough = () => tried.findIndex(({ lufs }, n) => n > 0 && lufs >= target - NEAR_LU);
  for (let ladder = 0, from = first.gainDb; ladder < LADDERS && firstLoudEnough() < 0; ladder++) {
    const levels = LADDER_DB.map((db) => ({ ...first, gainDb: from + db }));
    const outcomes = await forecast(levels);
    for (const [n, level] of levels.entries()) {
      const lufs = outcomes[n] ?? null;
      if (lufs !== null) tried.push({ ...level, lufs });
    }
    from += NEXT_LADDER_DB;
  }
  const above = firstLoudEnough();
  const [lower, upper] = above > 0 ? tried.slice(above - 1) : tried.slice(-2);
  if (!lower || !upper) return { gainDb: first.gainDb, share: 1 };
  const share = shareOf(lower, upper);
  return { gainDb: upper.gainDb + (target - upper.lufs) / share, share };
}
