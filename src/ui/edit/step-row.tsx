'use client';

import { HolderOutlined, MoreOutlined } from '@ant-design/icons';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { Button, Checkbox, Dropdown, Input, type MenuProps } from 'antd';
import { memo, useEffect, useState } from 'react';
import { type StoreApi, useStore } from 'zustand';
import { clockText } from '@/core/base/figures';
import type { StepId } from '@/core/base/ids';
import type { Step } from '@/core/cut/cut';
import { layoutName } from '@/core/layout/layout-kinds';
import { effectsText } from './step-areas';
import type { ClickKeys } from './use-step-selection';

/** Of every row, so that where each one is need not be measured. */
export const ROW_PX = 67;

/** What can be done with a whole step. */
export type StepAct = 'again' | 'select' | 'duplicate' | 'join' | 'delete';

/** Tells which step is at the playhead. */
export type Here = StoreApi<{ here: StepId }>;

type Props = {
  step: Step;
  /** Its own, or its place in the order. */
  title: string;
  number: number;
  /** How many steps there are. */
  of: number;
  lengthUs: number;
  here: Here;
  /** Null while no step is selected. */
  isSelected: boolean | null;
  /** Whether its take has one. */
  hasPicture: boolean;
  /** The same for every row and every time: rows that did not change are not drawn again. */
  does: RowActs;
};

export type RowActs = {
  go: (id: StepId, keys: ClickKeys) => void;
  rename: (id: StepId, title: string) => void;
  act: (step: Step, act: StepAct) => void;
};

/** A step in the list: its handle, its place, its title, how it looks, how long it is, and what can be done with it. */
export const StepRow = memo(function StepRow({
  step,
  title,
  number,
  of,
  lengthUs,
  here,
  isSelected,
  hasPicture,
  does,
}: Props) {
  const isHere = useStore(here, (now) => now.here === step.id);
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id: step.id });
  return (
    <li
      ref={setNodeRef}
      className={isHere ? 'on' : ''}
      aria-setsize={of}
      aria-posinset={number}
      data-dragged={isDragging || undefined}
      style={{
        top: (number - 1) * ROW_PX,
        height: ROW_PX,
        transform: CSS.Translate.toString(transform),
        transition,
        ...(isDragging && { zIndex: 1, opacity: 0.8 }),
      }}
    >
      {of > 1 && (
        <Button
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          type="text"
          size="small"
          className="handle"
          icon={<HolderOutlined />}
          aria-label={`Move ${title}`}
        />
      )}
      {isSelected !== null && (
        <Checkbox
          checked={isSelected}
          aria-label={`Select ${title}`}
          onChange={() => does.act(step, 'select')}
        />
      )}
      <Button className="step-picture" type="text" onClick={(event) => does.go(step.id, event)}>
        {hasPicture && <StepPicture step={step} />}
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
          onChange={({ target }) => does.rename(step.id, target.value)}
        />
        <span className="small mute cut-off">
          <span className="fig">{clockText(lengthUs)}</span> {summary(step)}
        </span>
      </span>
      <Dropdown
        trigger={['click']}
        menu={{
          items: itemsFor(number, of, isSelected === true),
          onClick: ({ key }) => does.act(step, key as StepAct),
        }}
      >
        <Button type="text" size="small" icon={<MoreOutlined />} aria-label={`More for ${title}`} />
      </Dropdown>
    </li>
  );
});

/** A little after its beginning: the very first picture may still be what was there before. */
const INTO_US = 500_000;

/** A take that has just ended is still being finished. */
const AGAIN_MS = 3000;
const MOST_TRIES = 20;

/** The screen's picture in a step, where it has one. */
function StepPicture({ step: { pieces, layout } }: { step: Step }) {
  const [tries, setTries] = useState(0);
  const [missing, setMissing] = useState(false);
  useEffect(() => {
    if (!missing || tries >= MOST_TRIES) return;
    const timer = setTimeout(() => {
      setTries((before) => before + 1);
      setMissing(false);
    }, AGAIN_MS);
    return () => clearTimeout(timer);
  }, [missing, tries]);
  const [piece] = pieces;
  if (!piece || missing || layout.kind === 'camera') return null;
  const us = piece.heldUs ?? Math.min(piece.outUs, piece.inUs + INTO_US);
  const again = tries > 0 ? `?again=${tries}` : '';
  return (
    <img
      src={`/api/takes/${piece.take}/frame/${Math.floor(us / 100_000)}${again}`}
      alt=""
      loading="lazy"
      onError={() => setMissing(true)}
      // It may have failed before anybody listened.
      ref={(image) => {
        if (image?.complete && image.naturalWidth === 0) setMissing(true);
      }}
    />
  );
}

const summary = (step: Step): string =>
  [layoutName(step.layout), effectsText(step)].filter(Boolean).join(', ');

const itemsFor = (number: number, of: number, isSelected: boolean): NonNullable<MenuProps['items']> => [
  { key: 'again' satisfies StepAct, label: 'Record this step again' },
  { key: 'select' satisfies StepAct, label: isSelected ? 'Deselect' : 'Select', disabled: of === 1 },
  { key: 'duplicate' satisfies StepAct, label: 'Duplicate' },
  { key: 'join' satisfies StepAct, label: 'Join to the step before', disabled: number === 1 },
  { type: 'divider' },
  { key: 'delete' satisfies StepAct, label: 'Delete', danger: true, disabled: of === 1 },
];
