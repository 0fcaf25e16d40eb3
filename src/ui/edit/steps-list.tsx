'use client';

import { Button, Input } from 'antd';
import type { ReactNode } from 'react';
import { clockText } from '@/core/base/figures';
import type { StepId } from '@/core/base/ids';
import { type Cut, cutLengthUs, type Step, shownLengthsUs, stepTitle } from '@/core/cut/cut';
import { join, setTitle } from '@/core/cut/edits';
import { layoutName } from '@/core/layout/layout-kinds';
import type { CutKeeper } from './use-cut';

/** The steps of the video in their order, and below them where they come from. */
export function StepsList(props: {
  keeper: CutKeeper;
  /** The step at the playhead. */
  here: StepId;
  edit: (make: (cut: Cut) => Cut) => void;
  goTo: (id: StepId) => void;
  children: ReactNode;
}) {
  const { keeper, here, edit, goTo } = props;
  const { cut, change, saving } = keeper;
  const lengths = shownLengthsUs(cut);
  return (
    <section className="steps-list" aria-label="Steps of the video">
      <div className="row">
        <h2>
          {cut.steps.length} {cut.steps.length === 1 ? 'step' : 'steps'}, {clockText(cutLengthUs(cut))}
        </h2>
        <span className="grow" />
        <span className="small mute" role="status">
          {saving ? 'saving …' : 'saved'}
        </span>
      </div>
      <ol>
        {cut.steps.map((step, i) => (
          <StepRow
            key={step.id}
            cut={cut}
            step={step}
            number={i + 1}
            lengthUs={lengths[i] ?? 0}
            isHere={step.id === here}
            onGo={() => goTo(step.id)}
            onTitle={(title) => change(setTitle(cut, step.id, title))}
            onJoin={i > 0 ? () => edit((now) => join(now, step.id)) : null}
          />
        ))}
      </ol>
      {props.children}
    </section>
  );
}

function StepRow(props: {
  cut: Cut;
  step: Step;
  number: number;
  lengthUs: number;
  isHere: boolean;
  onGo: () => void;
  onTitle: (title: string) => void;
  /** Null for the first: nothing stands before it. */
  onJoin: (() => void) | null;
}) {
  const { cut, step, number, isHere } = props;
  const title = stepTitle(cut, step.id);
  return (
    <li className={isHere ? 'on' : ''}>
      <Button
        shape="circle"
        color={isHere ? 'primary' : 'default'}
        variant={isHere ? 'filled' : 'outlined'}
        onClick={props.onGo}
      >
        <span className="fig">{number}</span>
        <span className="sr-only">Go to {title}</span>
      </Button>
      <span className="grow">
        <Input
          variant="borderless"
          style={{ paddingInline: 0 }}
          aria-label={`Title of step ${number}`}
          value={step.title}
          placeholder={title}
          maxLength={200}
          onChange={({ target }) => props.onTitle(target.value)}
        />
        <span className="small mute">{layoutName(step.layout)}</span>
      </span>
      <span className="fig">{clockText(props.lengthUs)}</span>
      {props.onJoin && (
        <Button
          type="text"
          aria-label={`Join ${title} to the step before it`}
          title="Join to the step before"
          onClick={props.onJoin}
        >
          Join
        </Button>
      )}
    </li>
  );
}
