import { fpsText } from '../base/rational';
import type { Diagnosis, Stage } from './diagnosis';
import { isTooStill, type RehearsalFigures } from './figures';

/** What a stage is called at the beginning of a sentence. */
export const STAGE_NAMES: Record<Stage, string> = {
  source: 'The source',
  composition: 'Compositing',
  encoder: 'The encoder',
  writing: 'Writing to disk',
  upload: 'The upload',
};

export type RehearsalVerdict = { kind: 'good' | 'warn' | 'stop'; sentence: string; detail?: string };

type Judged = { figures: RehearsalFigures; diagnosis: Diagnosis; durationUs: number };

/** More than one frame in twenty is a recording that nobody wants. */
const MUCH = 0.05;

/** The one sentence about a rehearsal. */
export function rehearsalVerdict({ figures, diagnosis, durationUs }: Judged): RehearsalVerdict {
  const { targetFps, dropped, missed, onTime, late } = figures;
  const target = `${fpsText(targetFps)} fps`;
  const made = onTime + late + dropped + missed;
  const [worst, second] = diagnosis.faults;
  if (!worst)
    return isTooStill(figures, durationUs)
      ? {
          kind: 'warn',
          sentence: 'This says little: hardly anything moved.',
          detail: 'Rehearse again and do what you will do in the recording.',
        }
      : {
          kind: 'good',
          sentence: `This machine records this rig at ${target}.`,
          detail: [lostText(dropped + missed, made), warmUpText(diagnosis)].filter(Boolean).join(' '),
        };
  const lost = dropped + missed;
  const also = second ? ` ${STAGE_NAMES[second.stage]} is too slow as well. ${second.evidence}` : '';
  return {
    kind: lost > MUCH * made ? 'stop' : 'warn',
    sentence: worstSentence(worst.stage, target, worst.lost, made),
    detail: `${worst.evidence}${worst.sureness === 'likely' ? ' Other stages contribute.' : ''}${also}`,
  };
}

/** What was lost in the first second, which is judged apart. */
const warmUpText = ({ warmUpLost }: Diagnosis): string =>
  warmUpLost > 2
    ? `In the first second, ${warmUpLost} frames were dropped: wait a moment before you start.`
    : '';

const lostText = (lost: number, made: number): string =>
  lost === 0 ? 'No dropped frames.' : `${lost} of ${made} frames dropped: too few to see.`;

function worstSentence(stage: Stage, target: string, lost: number, made: number): string {
  if (stage === 'upload') return 'The upload is slower than the recording: the link will be ready later.';
  if (lost === 0) return 'The source delivers its frames late.';
  const share = `${lost} of ${Math.max(made, lost)} frames`;
  if (stage === 'source') return `The source does not give ${target}: ${share} are missing.`;
  return `${STAGE_NAMES[stage]} cannot sustain ${target}: ${share} dropped.`;
}
