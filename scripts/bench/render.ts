// What a render costs beyond one plain ffmpeg that composes and encodes the same pictures and mixes the same sound.

import type { Cut } from '@/core/cut/cut';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { bare } from './bare';
import { bench, quick } from './bench';
import { makeHere, unlimited, wholeCut, withRecorded } from './parcels';

/** What is made: the destination, and how much of the take. */
const JOBS = {
  overheadOverBare: { destination: 'course-platform', seconds: null },
  h264OverBare: { destination: 'message-attachment', seconds: null },
  shortOverBare: { destination: 'message-attachment', seconds: 10 },
} as const;

/** In turns: on a shared machine the very same encode takes a tenth more or less than a minute before. */
const TURNS = 2;

bench('render', { most: { overheadOverBare: 1.05, h264OverBare: 1.1, shortOverBare: 1.4 } }, ({ url }) =>
  withRecorded(url, PRACTICE_RIG, quick ? 20 : 60, async (recorded) => {
    const figures: Record<string, number> = {};
    for (const [name, { destination, seconds }] of Object.entries(JOBS)) {
      const cut = firstSeconds(wholeCut(recorded), seconds);
      const wanted = unlimited(destination);
      let [tookS, bareS] = [0, 0];
      for (let turn = 0; turn < TURNS; turn++) {
        const { seconds, facts, firstCrf } = await makeHere(recorded, cut, wanted, true);
        if (facts.crf !== firstCrf) throw new Error(`${name} took more than one attempt.`);
        tookS += seconds / TURNS;
        bareS += (await bare(cut, wanted, firstCrf)) / TURNS;
      }
      Object.assign(figures, { [name]: tookS / bareS, [`${name}S`]: tookS, [`${name}BareS`]: bareS });
    }
    return figures;
  }),
);

/** A cut up to a time; all of it without one. */
const firstSeconds = (cut: Cut, seconds: number | null): Cut => ({
  ...cut,
  steps: cut.steps.map((step) => ({
    ...step,
    pieces: step.pieces.map((piece) => ({
      ...piece,
      outUs: seconds === null ? piece.outUs : Math.min(piece.outUs, piece.inUs + seconds * 1e6),
    })),
  })),
});
