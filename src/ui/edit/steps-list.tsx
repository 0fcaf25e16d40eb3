'use client';

import { useRouter } from 'next/navigation';
import { type ReactNode, useLayoutEffect, useState } from 'react';
import { createStore } from 'zustand/vanilla';
import { clockText } from '@/core/base/figures';
import { newStepId, type StepId, type TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, type Step, stepTitle } from '@/core/cut/cut';
import { join, setTitle } from '@/core/cut/edits';
import { duplicateSteps, moveSteps, removeSteps } from '@/core/cut/whole-steps';
import { useRoom } from '../lesson/lesson-room';
import { useSame } from '../wire/use-same';
import { SelectedSteps } from './selected-steps';
import type { Here, StepAct } from './step-row';
import { StepRows } from './step-rows';
import type { CutKeeper } from './use-cut';
import { type ClickKeys, useStepSelection } from './use-step-selection';

type Props = {
  keeper: CutKeeper;
  /** The step at the playhead. */
  here: StepId;
  /** Takes of sound alone. */
  soundOnly: ReadonlySet<TakeId>;
  edit: (make: (cut: Cut) => Cut) => void;
  goTo: (id: StepId) => void;
  /** What adds another step. */
  add: ReactNode;
  children: ReactNode;
};

/** The steps of the video in their order, and below them where they come from. */
export function StepsList({ keeper, here, soundOnly, edit, goTo, add, children }: Props) {
  const { cut, change, saving } = keeper;
  const { selected, click, toggle, clear } = useStepSelection(cut);
  const does = useSame({
    go: (id: StepId, keys: ClickKeys) => {
      if (!click(id, keys)) goTo(id);
    },
    rename: (id: StepId, title: string) => change(setTitle(cut, id, title)),
    act: useActs(keeper, edit, toggle),
    // Whoever drags one of the selected steps drags all of them.
    move: (id: StepId, before: StepId | null) =>
      edit((now) => moveSteps(now, selected.includes(id) ? selected : [id], before)),
  });
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
        {add}
      </div>
      {selected.length > 0 && <SelectedSteps {...{ selected, cut, edit }} onClear={clear} />}
      <StepRows {...{ cut, soundOnly, does }} here={useHere(here)} selected={selected.join(' ')} />
      {children}
    </section>
  );
}

/** The step at the playhead, for rows that ask for it one by one: another one draws two of them again and not all. */
function useHere(here: StepId): Here {
  const [store] = useState(() => createStore(() => ({ here })));
  useLayoutEffect(() => store.setState({ here }), [store, here]);
  return store;
}

/** What the entries of a step's menu do. */
function useActs({ cut, flush }: CutKeeper, edit: Props['edit'], toggle: (id: StepId) => void) {
  const { lesson } = useRoom();
  const router = useRouter();
  return (step: Step, what: StepAct) => {
    if (what === 'select') return toggle(step.id);
    if (what === 'duplicate') return edit((now) => duplicateSteps(now, [step.id], newStepId));
    if (what === 'join') return edit((now) => join(now, step.id));
    if (what === 'delete') return edit((now) => removeSteps(now, [step.id]));
    const place = new URLSearchParams({ step: step.id, title: stepTitle(cut, step.id) });
    void flush().then(() => router.push(`/lessons/${lesson.id}/record?${place}`));
  };
}
