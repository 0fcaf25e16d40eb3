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

/** How many decibels of loudness a decibel of gain brought, of the last two that were tried; what is usual where there are no two. */
function shareOf(tried: readonly Levelled[], usual: number): number {
  const [before, last] = [tried.at(-2), tried.at(-1)];
  if (!before || !last || last.gainDb === before.gainDb) return usual;
  const share = (last.lufs - before.lufs) / (last.gainDb - before.gainDb);
  return Math.min(1, Math.max(LEAST_SHARE, share));
}

/** Attempts with the limiter, on the mix and then on the finished file. */
const ROUNDS = 4;
const FILE_ROUNDS = 3;
const NEAR_LU = 0.1;

/**
 * Tries a limited levelling on the mix until it is near, then on the file itself, whose encoder has a say too. Each next one by the secant of
 * the last two of the same kind: speech with high peaks gains less than a decibel by a decibel, because the limiter takes its share.
 * @param mixLufs of the mix as it is
 * @param forecast loudness of the mix behind a levelling, LUFS; null for silence
 * @param encode makes the file, and gives its loudness; the last one that was made stays
 */
export async function settleLevelling(
  { lufs: target, toleranceLu }: { lufs: number; toleranceLu: number },
  first: Levelling,
  mixLufs: number,
  forecast: (level: Levelling) => Promise<number | null>,
  encode: (level: Levelling) => Promise<number | null>,
): Promise<void> {
  let level = first;
  const settle = async (
    tried: Levelled[],
    { rounds, nearLu, usual }: { rounds: number; nearLu: number; usual: number },
    outcome: typeof forecast,
  ): Promise<number> => {
    for (let round = 0; round < rounds; round++) {
      const lufs = await outcome(level);
      if (lufs === null) break;
      tried.push({ ...level, lufs });
      if (Math.abs(lufs - target) <= nearLu) break;
      level = { ...level, gainDb: level.gainDb + (target - lufs) / shareOf(tried, usual) };
    }
    return shareOf(tried, usual);
  };
  const asMixed = { gainDb: 0, limitDbfs: null, lufs: mixLufs };
  const usual = await settle([asMixed], { rounds: ROUNDS, nearLu: NEAR_LU, usual: 1 }, forecast);
  // What a file is louder or quieter by than its forecast says nothing of what more gain would bring.
  await settle([], { rounds: FILE_ROUNDS, nearLu: toleranceLu / 2, usual }, encode);
}
