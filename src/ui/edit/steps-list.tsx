'use client';

import {
  type Announcements,
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useRouter } from 'next/navigation';
import { memo, type ReactNode, useLayoutEffect, useMemo, useState } from 'react';
import { createStore } from 'zustand/vanilla';
import { clockText } from '@/core/base/figures';
import { newStepId, type StepId, type TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, type Step, shownLengthsUs, stepTitle, stepTitles } from '@/core/cut/cut';
import { join, setTitle } from '@/core/cut/edits';
import { duplicateSteps, moveSteps, removeSteps } from '@/core/cut/whole-steps';
import { useRoom } from '../lesson/lesson-room';
import { useSame } from '../wire/use-same';
import { SelectedSteps } from './selected-steps';
import { type Here, type RowActs, type StepAct, StepRow } from './step-row';
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

/** A pointer that moves less than this has clicked. */
const CLICK_PX = 4;
// The same objects every time: other options are another sensor to the package, for which it draws every row again.
const BY_POINTER = { activationConstraint: { distance: CLICK_PX } };
const BY_KEYS = { coordinateGetter: sortableKeyboardCoordinates };

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

type RowsActs = RowActs & { move: (id: StepId, before: StepId | null) => void };

/** The step at the playhead, for rows that ask for it one by one: another one draws two of them again and not all. */
function useHere(here: StepId): Here {
  const [store] = useState(() => createStore(() => ({ here })));
  useLayoutEffect(() => store.setState({ here }), [store, here]);
  return store;
}

/** The rows, which can be dragged. Drawn again only when the cut or the selection is another, not with every jump. */
const StepRows = memo(function StepRows({
  cut,
  here,
  soundOnly,
  selected,
  does,
}: Pick<Props, 'soundOnly'> & { cut: Cut; here: Here; selected: string; does: RowsActs }) {
  // What the package compares must be the same where nothing moved: else it has every row drawn again.
  const { lengths, ids, titles, accessibility } = useMemo(
    () => ({
      lengths: shownLengthsUs(cut),
      ids: cut.steps.map(({ id }) => id),
      titles: stepTitles(cut),
      accessibility: { announcements: announcementsFor(cut), screenReaderInstructions: INSTRUCTIONS },
    }),
    [cut],
  );
  const picked = selected === '' ? null : new Set(selected.split(' '));
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER), useSensor(KeyboardSensor, BY_KEYS));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const before = over && placeFor(cut, active.id as StepId, over.id as StepId);
    if (before !== null) does.move(active.id as StepId, before.id);
  };
  return (
    <DndContext
      id="steps"
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={accessibility}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol>
          {cut.steps.map((step, i) => (
            <StepRow
              key={step.id}
              step={step}
              title={titles[i] ?? ''}
              number={i + 1}
              of={cut.steps.length}
              lengthUs={lengths[i] ?? 0}
              here={here}
              isSelected={picked?.has(step.id) ?? null}
              hasPicture={step.pieces.every(({ take }) => !soundOnly.has(take))}
              does={does}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
});

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

/** The step that a dragged one comes before, `null` for the end. @returns null where it stays */
function placeFor(cut: Cut, moved: StepId, over: StepId): { id: StepId | null } | null {
  const ids = cut.steps.map(({ id }) => id);
  const [from, to] = [ids.indexOf(moved), ids.indexOf(over)];
  if (from < 0 || to < 0 || from === to) return null;
  return { id: ids[from < to ? to + 1 : to] ?? null };
}

const INSTRUCTIONS = {
  draggable:
    'To move a step, press the space bar, then the up and down arrows, and the space bar again. Escape cancels.',
};

/** What a screen reader says while a step is moved. */
function announcementsFor(cut: Cut): Announcements {
  const title = (id: unknown) => stepTitle(cut, id as StepId);
  const place = (id: unknown) => cut.steps.findIndex((step) => step.id === id) + 1;
  return {
    onDragStart: ({ active }) => `${title(active.id)} is picked up.`,
    onDragOver: ({ active, over }) =>
      over ? `${title(active.id)} is at place ${place(over.id)} of ${cut.steps.length}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over ? `${title(active.id)} is dropped at place ${place(over.id)}.` : 'Nothing moved.',
    onDragCancel: ({ active }) => `${title(active.id)} is back in its place.`,
  };
}
