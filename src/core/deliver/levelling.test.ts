import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type Levelling, levelling, settleLevelling } from './levelling';

const TARGET = { lufs: -14, truePeakDbtp: -1, toleranceLu: 0.5 };
const MIX = { lufs: -20, truePeakDbtp: -3 };

/** A mix whose limiter takes more of every further decibel, as the meter tells it: to a tenth. */
const told =
  (kneeDb: number, share: number, offsetLu: number) =>
  async ({ gainDb }: Levelling): Promise<number> => {
    const raisedDb = Math.min(gainDb, kneeDb) + share * Math.max(0, gainDb - kneeDb);
    return Math.round((MIX.lufs + raisedDb + offsetLu) * 10) / 10;
  };

/** Of some levellings at once. */
const all = (one: (level: Levelling) => Promise<number | null>) => (levels: readonly Levelling[]) =>
  Promise.all(levels.map(one));

it('ends within its tolerance, whatever the limiter takes and however much its encoder adds', async () => {
  const mixes = fc.record({
    kneeDb: fc.double({ min: 0, max: 6, noNaN: true }),
    share: fc.double({ min: 0.35, max: 1, noNaN: true }),
    offsetLu: fc.double({ min: -0.7, max: 0.7, noNaN: true }),
  });
  await fc.assert(
    fc.asyncProperty(mixes, async ({ kneeDb, share, offsetLu }) => {
      const made: number[] = [];
      const file = told(kneeDb, share, offsetLu);
      const encode = async (level: Levelling) => {
        const lufs = await file(level);
        made.push(lufs);
        return lufs;
      };
      const forecast = all(told(kneeDb, share, 0));
      await settleLevelling(TARGET, levelling(TARGET, MIX), MIX.lufs, forecast, encode);
      expect(Math.abs((made.at(-1) ?? 0) - TARGET.lufs)).toBeLessThanOrEqual(TARGET.toleranceLu);
      expect(made.length).toBeLessThanOrEqual(3);
    }),
  );
});

it('makes a mix quieter whose peaks are too high even then, by what its limiter leaves', async () => {
  const loud = { lufs: -11, truePeakDbtp: 2 };
  // Of what is left of the peaks the limiter takes a decibel and a half.
  const forecast = async ({ gainDb }: Levelling) => loud.lufs + gainDb - 1.5 - 0.2 * (gainDb + 3);
  const made: number[] = [];
  await settleLevelling(TARGET, levelling(TARGET, loud), loud.lufs, all(forecast), async (level) => {
    made.push(await forecast(level));
    return made.at(-1) ?? null;
  });
  expect(made.length).toBe(1);
  expect(Math.abs((made[0] ?? 0) - TARGET.lufs)).toBeLessThan(0.1);
});

it('makes a file that is near at once only once, and silence as it comes', async () => {
  let made = 0;
  const encode = (lufs: number | null) => async () => {
    made++;
    return lufs;
  };
  await settleLevelling(
    TARGET,
    levelling(TARGET, MIX),
    MIX.lufs,
    all(async () => -14.1),
    encode(-13.9),
  );
  expect(made).toBe(1);
  await settleLevelling(
    TARGET,
    levelling(TARGET, MIX),
    MIX.lufs,
    all(async () => null),
    encode(null),
  );
  expect(made).toBe(2);
});

it('takes the gain between two that were forecast, and looks further up when none is loud enough', async () => {
  const hot = { gainDb: 14, limitDbfs: -2 };
  /** @returns gains that were forecast, in their turns, and the one that was encoded */
  const gains = async (loudness: (gainDb: number) => number) => {
    const asked: number[][] = [];
    const made: number[] = [];
    const forecast = (levels: readonly Levelling[]) => {
      asked.push(levels.map(({ gainDb }) => gainDb));
      return all(async ({ gainDb }) => loudness(gainDb))(levels);
    };
    await settleLevelling({ lufs: -16, toleranceLu: 1 }, hot, -25, forecast, async ({ gainDb }) => {
      made.push(gainDb);
      return -16;
    });
    return { asked, made };
  };
  // Of every decibel beyond the first 14 a half comes out: the 1 LU that is missing takes 2 dB.
  expect(await gains((gainDb) => -17 + 0.5 * (gainDb - 14))).toEqual({ asked: [[14, 15.5, 18]], made: [16] });
  // 4 LU take 8 dB, which are between the second turn's.
  expect(await gains((gainDb) => -20 + 0.5 * (gainDb - 14))).toEqual({
    asked: [
      [14, 15.5, 18],
      [19.5, 21, 23.5],
    ],
    made: [22],
  });
});

it('takes what a file is quieter by than its forecast for no sign of what more gain brings', async () => {
  // As it was measured: another 0.4 dB was missing in the file, 2 were added, and it ended 0.7 LU too loud.
  const forecast = async ({ gainDb }: Levelling) => -14.5 + 0.92 * (gainDb - 6);
  const made: number[] = [];
  await settleLevelling(TARGET, { gainDb: 6, limitDbfs: -2 }, MIX.lufs, all(forecast), async (level) => {
    made.push((await forecast(level)) - 0.4);
    return made.at(-1) ?? null;
  });
  expect(made.length).toBe(2);
  expect(Math.abs((made[1] ?? 0) - TARGET.lufs)).toBeLessThan(0.1);
});

it('limits only what would come too near its peak', () => {
  expect(levelling(TARGET, { lufs: -20, truePeakDbtp: -8.1 }).limitDbfs).toBeNull();
  expect(levelling(TARGET, { lufs: -20, truePeakDbtp: -7.9 })).toEqual({ gainDb: 6, limitDbfs: -2 });
  expect(levelling(TARGET, { lufs: -56, truePeakDbtp: -40 })).toEqual({ gainDb: 0, limitDbfs: null });
});
