// What a render costs beyond one plain ffmpeg that composes and encodes the same pictures and mixes the same sound.

import type { Cut } from '@/core/cut/cut';
import { firstCrf } from '@/core/deliver/quality';
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

bench('render', { most: { overheadOverBare: 1.05, h264OverBare: 1.1, shortOverBare: 1.4 } }, ({ url }) =>
  withRecorded(url, PRACTICE_RIG, quick ? 20 : 60, async (recorded) => {
    const figures: Record<string, number> = {};
    for (const [name, { destination, seconds }] of Object.entries(JOBS)) {
      const cut = firstSeconds(wholeCut(recorded), seconds);
      const wanted = unlimited(destination);
      const { seconds: tookS, facts } = await makeHere(recorded, cut, wanted);
      if (facts.crf !== firstCrf(wanted)) throw new Error(`${name} took more than one attempt.`);
      const bareS = await bare(cut, wanted);
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
