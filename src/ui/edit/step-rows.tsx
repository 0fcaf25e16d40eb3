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
import { defaultRangeExtractor, type Range, useVirtualizer } from '@tanstack/react-virtual';
import { memo, type RefObject, useCallback, useMemo, useRef } from 'react';
import type { StepId, TakeId } from '@/core/base/ids';
import { type Cut, shownLengthsUs, stepTitle, stepTitles } from '@/core/cut/cut';
import { type Here, ROW_PX, type RowActs, StepRow } from './step-row';

/** Rows beyond what is in sight on either side: the list's head, which scrolls with it, pushes the rows down by up to two. */
const BEYOND = 6;

/** A pointer that moves less than this has clicked. */
const CLICK_PX = 4;
// The same objects every time: other options are another sensor to the package, for which it draws every row again.
const BY_POINTER = { activationConstraint: { distance: CLICK_PX } };
const BY_KEYS = { coordinateGetter: sortableKeyboardCoordinates };

type Props = {
  cut: Cut;
  here: Here;
  /** Takes of sound alone. */
  soundOnly: ReadonlySet<TakeId>;
  /** The ids of the selected steps with spaces between. */
  selected: string;
  does: RowActs & { move: (id: StepId, before: StepId | null) => void };
};

/**
 * The rows, which can be dragged. Drawn again only when the cut or the selection is another, not with every jump. Of hundreds of
 * steps only those in sight have a row: each of the others would cost with every picture of the page.
 */
export const StepRows = memo(function StepRows({ cut, here, soundOnly, selected, does }: Props) {
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
  const list = useRef<HTMLOListElement>(null);
  const inSight = useRowsInSight(list, ids);
  return (
    <DndContext
      id="steps"
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={accessibility}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol ref={list} style={{ height: ids.length * ROW_PX }}>
          {inSight.map((i) => {
            const step = cut.steps[i];
            return (
              step && (
                <StepRow
                  key={step.id}
                  step={step}
                  title={titles[i] ?? ''}
                  number={i + 1}
                  of={ids.length}
                  lengthUs={lengths[i] ?? 0}
                  here={here}
                  isSelected={picked?.has(step.id) ?? null}
                  hasPicture={step.pieces.every(({ take }) => !soundOnly.has(take))}
                  does={does}
                />
              )
            );
          })}
        </ol>
      </SortableContext>
    </DndContext>
  );
});

/** The places of the rows that are in sight in what scrolls the list, and of those that are dragged or written in. */
function useRowsInSight(list: RefObject<HTMLOListElement | null>, ids: readonly StepId[]): number[] {
  const rangeExtractor = useCallback(
    (range: Range) => {
      const held = [
        ...(list.current?.querySelectorAll<HTMLElement>('li:is(:focus-within, [data-dragged])') ?? []),
      ];
      const places = new Set([
        ...held.map(({ ariaPosInSet }) => Number(ariaPosInSet) - 1),
        ...defaultRangeExtractor(range),
      ]);
      return [...places].filter((i) => i < range.count).sort((a, b) => a - b);
    },
    [list],
  );
  const virtualizer = useVirtualizer({
    count: ids.length,
    getScrollElement: () => list.current?.parentElement ?? null,
    estimateSize: () => ROW_PX,
    getItemKey: (i) => ids[i] ?? i,
    overscan: BEYOND,
    // On the server, which knows no window.
    initialRect: { width: 280, height: 600 },
    rangeExtractor,
  });
  return virtualizer.getVirtualItems().map(({ index }) => index);
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
