import { CLEAR } from '../image/clarity';

/** One bitrate that was tried on what is being captured: what it came to, and how clear its text still is. */
export type BitrateTrial = { askedKbps: number; gotKbps: number; clarity: number };

/** Where on the bitrate's scale text begins to break, and from where on nothing more is gained. */
export type BitrateMarks = {
  /** Under this text breaks; null when it was clear at the least that was tried. */
  legibilityKbps: number | null;
  /** Over this nothing is gained; null when clarity still rose at the most that was tried. */
  saturationKbps: number | null;
  trials: readonly BitrateTrial[];
};

/** Text clarity under which text are seen to suffer. */
const BREAKS = CLEAR.worst;
/** A rise of clarity that nobody sees, where the picture never gets clear. */
const NOTHING = 0.002;

const between = (from: BitrateTrial, to: BitrateTrial, clarity: number): number => {
  const share = (clarity - from.clarity) / (to.clarity - from.clarity);
  return Math.round(
    Math.exp(Math.log(from.askedKbps) + share * (Math.log(to.askedKbps) - Math.log(from.askedKbps))),
  );
};

/**
 * Reads the marks out of trials at several bitrates. Between two of them clarity is taken to grow with the logarithm of the bitrate.
 * @throws RangeError with fewer than two trials
 */
export function bitrateMarks(trials: readonly BitrateTrial[]): BitrateMarks {
  if (trials.length < 2) throw new RangeError('Marks need at least two bitrates.');
  const rising = [...trials].sort((a, b) => a.askedKbps - b.askedKbps);
  const best = Math.max(...rising.map(({ clarity }) => clarity));
  const clear = rising.findIndex(({ clarity }) => clarity >= BREAKS);
  const [before, at] = [rising[clear - 1], rising[clear]];
  const legibilityKbps =
    clear === 0 ? null : before && at ? between(before, at, BREAKS) : (rising.at(-1)?.askedKbps ?? null);
  const enough = rising.findIndex(({ clarity }) => clarity >= Math.min(CLEAR.mean, best - NOTHING));
  const saturationKbps = enough === rising.length - 1 ? null : (rising[enough]?.askedKbps ?? null);
  return { legibilityKbps, saturationKbps, trials: rising };
}

/** What the film would come to at a bitrate, by the trials: an encoder that has said all it has to say uses no more. */
export function expectedKbps({ trials }: BitrateMarks, askedKbps: number): number {
  const rising = [...trials].sort((a, b) => a.askedKbps - b.askedKbps);
  const upper = rising.findIndex((trial) => trial.askedKbps >= askedKbps);
  const [low, high] = [rising[upper - 1], rising[upper]];
  if (!high) return rising.at(-1)?.gotKbps ?? askedKbps;
  if (!low) return Math.min(askedKbps, high.gotKbps);
  const share =
    (Math.log(askedKbps) - Math.log(low.askedKbps)) / (Math.log(high.askedKbps) - Math.log(low.askedKbps));
  return low.gotKbps + share * (high.gotKbps - low.gotKbps);
}
