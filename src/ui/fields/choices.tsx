'use client';

import { Flex, InputNumber, Segmented, Select, Tooltip } from 'antd';
import type { ReactNode } from 'react';
import { useEffect, useId, useState } from 'react';
import { levelText } from '@/core/base/figures';
import { Reason } from './reasons';

export type Option = { value: string; label: string; disabled?: boolean };
export type Group = { label: string; options: Option[] };

/** The note and the reason below a control. */
function Beneath({ note, path }: Explained) {
  return (
    <>
      {note && <div className="small mute">{note}</div>}
      {path && <Reason path={path} />}
    </>
  );
}

/** What a control is called; what it does is said when the pointer rests on its name. */
function Label({
  name,
  effect,
  htmlFor,
  id,
}: {
  name: string;
  effect?: string;
  htmlFor?: string;
  id?: string;
}) {
  const label = htmlFor ? (
    <label className="lab" htmlFor={htmlFor}>
      {name}
    </label>
  ) : (
    <span className="lab" id={id}>
      {name}
    </span>
  );
  return effect ? (
    <Tooltip title={effect} placement="topLeft" mouseEnterDelay={0.4}>
      {label}
    </Tooltip>
  ) : (
    label
  );
}

export type Explained = {
  note?: ReactNode;
  /** What choosing it does, in a few words. */
  effect?: string;
  /** Path into the rig: the reason for its value is shown below. */
  path?: string;
};

/** A named list of choices, with a note below. */
export function Choice(
  props: {
    name: string;
    value: string;
    options: (Option | Group)[];
    onChange: (value: string) => void;
  } & Explained,
) {
  const id = useId();
  return (
    <div className="choice">
      <Label name={props.name} effect={props.effect} htmlFor={id} />
      <Select
        id={id}
        value={props.value}
        options={props.options}
        onChange={props.onChange}
        popupMatchSelectWidth={false}
        // All of them at a glance: what must be scrolled to is not found.
        listHeight={480}
      />
      <Beneath note={props.note} path={props.path} />
    </div>
  );
}

/** A few words side by side, one of them chosen. */
export function Pebbles<T extends string>(
  props: {
    name: string;
    value: T;
    options: { value: T; label: string; disabled?: boolean }[];
    onChange: (value: T) => void;
  } & Explained,
) {
  const id = useId();
  return (
    <div className="choice">
      <Label name={props.name} effect={props.effect} id={id} />
      <Segmented
        className="pebbles"
        aria-labelledby={id}
        value={props.value}
        options={props.options}
        onChange={props.onChange}
      />
      <Beneath note={props.note} path={props.path} />
    </div>
  );
}

/**
 * A number that is typed or stepped. It is committed when the field is left, on Enter, and at each step; what is not allowed says so and
 * changes nothing.
 */
export function NumberInput(props: {
  id?: string;
  label?: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: ReactNode;
  /** In a list: lower, and with its unit inside. */
  isSmall?: boolean;
  onChange: (value: number) => void;
}) {
  const { value, min, max, onChange, isSmall = false } = props;
  const [draft, setDraft] = useState<number | null>(value);
  const [wrong, setWrong] = useState(false);
  // Another value came from elsewhere: a restored proposal, a fixed finding, a drawing on the picture.
  useEffect(() => {
    setDraft(value);
    setWrong(false);
  }, [value]);
  const commit = (next: number | null) => {
    if (next === value) return setWrong(false);
    const allowed = next !== null && next >= min && next <= max;
    setWrong(!allowed);
    if (allowed) onChange(next);
    else setDraft(value);
  };
  return (
    <Flex gap={8} align="center" wrap>
      <InputNumber
        style={{ width: 100 }}
        size={isSmall ? 'small' : undefined}
        suffix={isSmall ? props.unit : undefined}
        id={props.id}
        aria-label={props.label}
        aria-invalid={wrong}
        value={draft}
        step={props.step ?? 1}
        status={wrong ? 'error' : undefined}
        onChange={setDraft}
        onStep={commit}
        onPressEnter={() => commit(draft)}
        onBlur={() => commit(draft)}
      />
      {props.unit && !isSmall && <span className="mute">{props.unit}</span>}
      {wrong && (
        <span className="small amber" role="alert">
          Enter a number from {levelText(min)} to {levelText(max)}. {levelText(value)} is kept.
        </span>
      )}
    </Flex>
  );
}

/** A named number, with its unit beside it. */
export function NumberField({
  name,
  unit,
  note,
  path,
  effect,
  ...input
}: {
  name: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: ReactNode;
  onChange: (value: number) => void;
} & Explained) {
  const id = useId();
  return (
    <div className="choice">
      <Label name={name} effect={effect} htmlFor={id} />
      <NumberInput id={id} unit={unit} {...input} />
      <Beneath note={note} path={path} />
    </div>
  );
}
