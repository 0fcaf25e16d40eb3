'use client';

import { Button } from 'antd';
import { scaleLinear } from 'd3-scale';
import { memo } from 'react';
import type { StepId } from '@/core/base/ids';
import { type Cut, type PlacedStep, placedSteps, stepTitles } from '@/core/cut/cut';
import { STRIP_WIDTH } from '../player/place-strip';
import { type BandRun, bandRuns, stepOfRun } from './band-runs';

type Props = {
  cut: Cut;
  lengthUs: number;
  zoom: number;
  /** The step at the playhead. */
  here: StepId;
  onStep: (id: StepId) => void;
};

/** The steps above the strip, each as wide as it is long. */
export const StepsBand = memo(function StepsBand({ cut, lengthUs, zoom, here, onStep }: Props) {
  const titles = new Map(stepTitles(cut).map((title, i) => [cut.steps[i]?.id, title]));
  return (
    <ol className="stretches" aria-label="Steps">
      {bandRuns(placedSteps(cut), lengthUs, zoom).map((run) => {
        const [first, last] = [run.steps[0], run.steps.at(-1)] as [PlacedStep, PlacedStep];
        const { id } = first.step;
        return (
          <li key={id} style={{ width: `${(100 * (last.endUs - first.startUs)) / lengthUs}%` }}>
            {run.isNamed ? (
              <NamedStep {...{ id, onStep }} title={titles.get(id) ?? ''} isHere={id === here} />
            ) : (
              <ShortSteps {...{ run, here, onStep }} />
            )}
          </li>
        );
      })}
    </ol>
  );
});

/** One with its title: of many, two are drawn again when the playhead goes from step to step. */
const NamedStep = memo(function NamedStep(props: {
  id: StepId;
  title: string;
  isHere: boolean;
  onStep: (id: StepId) => void;
}) {
  const { id, title, isHere, onStep } = props;
  return (
    <Button
      block
      size="small"
      color={isHere ? 'primary' : 'default'}
      variant={isHere ? 'filled' : 'outlined'}
      aria-pressed={isHere}
      onClick={() => onStep(id)}
    >
      <span className="cut-off">{title}</span>
    </Button>
  );
});

/** What a step leaves of its width to the next one. */
const GAP = 0.3;

/** Steps too short for a title, as bars: a click goes to the one under the pointer, a key to the first. */
function ShortSteps({ run, here, onStep }: { run: BandRun; here: StepId; onStep: (id: StepId) => void }) {
  const [first, last] = [run.steps[0], run.steps.at(-1)] as [PlacedStep, PlacedStep];
  const x = scaleLinear([first.startUs, last.endUs], [0, STRIP_WIDTH]);
  const bar = ({ startUs, endUs }: PlacedStep) =>
    `M${x(startUs)} 0H${x(endUs - GAP * (endUs - startUs))}V1H${x(startUs)}Z`;
  const standing = run.steps.find(({ step }) => step.id === here);
  const count = run.steps.length;
  return (
    <Button
      block
      type="text"
      size="small"
      className="short-steps"
      aria-label={count === 1 ? '1 short step' : `${count} short steps`}
      onClick={({ currentTarget, clientX, detail }) => {
        const { left, width } = currentTarget.getBoundingClientRect();
        const under = detail === 0 ? first : stepOfRun(run, (clientX - left) / Math.max(1, width));
        if (under) onStep(under.step.id);
      }}
    >
      <svg
        viewBox={`0 0 ${STRIP_WIDTH} 1`}
        preserveAspectRatio="none"
        width="100%"
        height="100%"
        aria-hidden="true"
      >
        <path d={run.steps.map(bar).join('')} fill="var(--ink-3)" opacity={0.6} />
        {standing && <path d={bar(standing)} fill="var(--river)" />}
      </svg>
    </Button>
  );
}
