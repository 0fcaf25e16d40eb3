// What a lesson with zooms, a quicker step and a dissolve costs to render, beside one plain ffmpeg that encodes as much of the take.

import { newStepId } from '@/core/base/ids';
import { type Cut, cutLengthUs, gainsOf, PLAIN_STEP, type Step } from '@/core/cut/cut';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { bare } from './bare';
import { bench, quick } from './bench';
import { makeHere, type Recorded, unlimited, wholeCut, withRecorded } from './parcels';

/** Of a take; the lesson is a tenth shorter, because a fifth of it runs at twice the speed. */
const SECONDS = quick ? 67 : 334;
/** Every picture is encoded, as that of the bare encoder is. */
const ENCODED = 'message-attachment';
/** Those of steps without effects are copied. */
const COPIED = 'hd-video-host';

bench('lesson', { most: { lessonOverBare: 1.3 } }, ({ url }) =>
  withRecorded(url, PRACTICE_RIG, SECONDS, async (recorded) => {
    const cut = lessonOf(recorded);
    const lengthUs = cutLengthUs(cut);
    const { seconds: lessonS } = await makeHere(recorded, cut, unlimited(ENCODED));
    const { seconds: copyingS } = await makeHere(recorded, cut, unlimited(COPIED));
    const bareS = await bare(shortened(wholeCut(recorded), lengthUs), unlimited(ENCODED));
    return {
      ...{ lessonOverBare: lessonS / bareS, copyingOverBare: copyingS / bareS },
      ...{ lengthS: lengthUs / 1e6, lessonS, copyingS, bareS },
    };
  }),
);

const shortened = (cut: Cut, lengthUs: number): Cut => ({
  ...cut,
  steps: cut.steps.map((step) => ({
    ...step,
    pieces: step.pieces.map((piece) => ({ ...piece, outUs: Math.min(piece.outUs, piece.inUs + lengthUs) })),
  })),
});

/** Four steps: as recorded; zoomed in and out every twenty seconds, dissolving in; at twice the speed; as recorded. */
function lessonOf(recorded: Recorded): Cut {
  const { take, durationUs, rig } = recorded;
  const whole = wholeCut(recorded);
  const layout = whole.steps[0]?.layout ?? { kind: 'screen' };
  const step = (from: number, to: number, change: Partial<Step>): Step => ({
    ...{ ...PLAIN_STEP, id: newStepId(), title: '', layout, gains: gainsOf(rig) },
    pieces: [{ take, inUs: Math.round(from * durationUs), outUs: Math.round(to * durationUs) }],
    ...change,
  });
  const zoomedUs = 0.35 * durationUs;
  const zooms: Step['zooms'] = [];
  for (let fromUs = 2_000_000; fromUs + 8_000_000 < zoomedUs; fromUs += 20_000_000)
    zooms.push({
      ...{ fromUs, toUs: fromUs + 8_000_000, easeUs: 600_000 },
      area: { x: 0.25, y: 0.25, width: 0.5, height: 0.5 },
    });
  return {
    ...whole,
    steps: [
      step(0, 0.25, {}),
      step(0.25, 0.6, { zooms, entry: { kind: 'dissolve', lengthUs: 600_000 } }),
      step(0.6, 0.8, { speed: 2 }),
      step(0.8, 1, {}),
    ],
  };
}
