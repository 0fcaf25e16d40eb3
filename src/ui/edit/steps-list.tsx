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
import type { ReactNode } from 'react';
import { clockText } from '@/core/base/figures';
import { newStepId, type StepId } from '@/core/base/ids';
import { type Cut, cutLengthUs, type Step, shownLengthsUs, stepTitle } from '@/core/cut/cut';
import { join, setTitle } from '@/core/cut/edits';
import { duplicateStep, moveStep, removeSteps } from '@/core/cut/whole-steps';
import { useRoom } from '../lesson/lesson-room';
import { type StepAct, StepRow } from './step-row';
import type { CutKeeper } from './use-cut';

type Props = {
  keeper: CutKeeper;
  /** The step at the playhead. */
  here: StepId;
  edit: (make: (cut: Cut) => Cut) => void;
  goTo: (id: StepId) => void;
  /** What adds another step. */
  add: ReactNode;
  children: ReactNode;
};

/** A pointer that moves less than this has clicked. */
const CLICK_PX = 4;

/** The steps of the video in their order, and below them where they come from. */
export function StepsList({ keeper, here, edit, goTo, add, children }: Props) {
  const { cut, change, saving } = keeper;
  const lengths = shownLengthsUs(cut);
  const act = useActs(keeper, edit);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: CLICK_PX } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const before = over && placeFor(cut, active.id as StepId, over.id as StepId);
    if (before !== null) edit((now) => moveStep(now, active.id as StepId, before.id));
  };
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
      <DndContext
        id="steps"
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        accessibility={{ announcements: announcementsFor(cut), screenReaderInstructions: INSTRUCTIONS }}
      >
        <SortableContext items={cut.steps.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ol>
            {cut.steps.map((step, i) => (
              <StepRow
                key={step.id}
                step={step}
                title={stepTitle(cut, step.id)}
                number={i + 1}
                of={cut.steps.length}
                lengthUs={lengths[i] ?? 0}
                isHere={step.id === here}
                onGo={() => goTo(step.id)}
                onTitle={(title) => change(setTitle(cut, step.id, title))}
                onAct={(what) => act(step, what)}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      {children}
    </section>
  );
}

/** What the entries of a step's menu do. */
function useActs({ cut, flush }: CutKeeper, edit: Props['edit']) {
  const { lesson } = useRoom();
  const router = useRouter();
  return (step: Step, what: StepAct) => {
    if (what === 'duplicate') return edit((now) => duplicateStep(now, step.id, newStepId()));
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
