'use client';

import { Select } from 'antd';
import type { ReactNode } from 'react';
import { useEffect, useId, useState } from 'react';
import { useSetUp } from './set-up-context';

export type Option = { value: string; label: string; disabled?: boolean };
type Group = { label: string; options: Option[] };

/** Why a value is what it is, for as long as it is as proposed. */
export function Reason({ path }: { path: string }) {
  const { reasons } = useSetUp();
  const reason = reasons[path];
  return reason ? <p className="small mute reason">{reason}</p> : null;
}

/** What stands beneath a control. */
function Beneath({ note, path }: Explained) {
  return (
    <>
      {note && <p className="small mute">{note}</p>}
      {path && <Reason path={path} />}
    </>
  );
}

type Explained = {
  note?: ReactNode;
  /** Of the rig: the reason of its value stands beneath. */
  path?: string;
};

/** A named choice. The name is tied to the control, and what it means stands beneath. */
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
      <label className="lab" htmlFor={id}>
        {props.name}
      </label>
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
      <fieldset className="pebbles">
        <legend className="lab">{props.name}</legend>
        {props.options.map(({ value, label, disabled = false }) => (
          <label
            key={value}
            className={`pebble ${value === props.value ? 'on' : ''} ${disabled ? 'off' : ''}`}
          >
            <input
              type="radio"
              name={id}
              className="sr-only"
              checked={value === props.value}
              disabled={disabled}
              onChange={() => props.onChange(value)}
            />
            {label}
          </label>
        ))}
      </fieldset>
      <Beneath note={props.note} path={props.path} />
    </div>
  );
}

/**
 * A number that is typed or stepped. It is taken when the field is left, on Enter, and at each step; what is not allowed says so and
 * changes nothing.
 */
export function NumberInput(props: {
  id?: string;
  label?: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  onChange: (value: number) => void;
}) {
  const { value, onChange } = props;
  const [text, setText] = useState(String(value));
  // Another value came from elsewhere: a restored proposal, a mended finding, a drawing on the picture.
  useEffect(() => setText(String(value)), [value]);
  const take = (field: HTMLInputElement) => {
    if (field.value === String(value)) return;
    if (field.value !== '' && field.validity.valid) onChange(field.valueAsNumber);
    else {
      field.reportValidity();
      setText(String(value));
    }
  };
  return (
    <input
      id={props.id}
      aria-label={props.label}
      type="number"
      value={text}
      min={props.min}
      max={props.max}
      step={props.step ?? 1}
      onChange={({ target, nativeEvent }) => {
        setText(target.value);
        // Letters that are typed have a kind of input; the arrows of the field have none.
        const typed = (nativeEvent as InputEvent).inputType !== undefined;
        if (!typed && target.validity.valid) onChange(target.valueAsNumber);
      }}
      onKeyDown={(event) => event.key === 'Enter' && take(event.currentTarget)}
      onBlur={({ target }) => take(target)}
    />
  );
}

/** A named number, with its unit beside it. */
export function NumberField({
  name,
  unit,
  note,
  path,
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
      <label className="lab" htmlFor={id}>
        {name}
      </label>
      <span className="number">
        <NumberInput id={id} {...input} />
        {unit && <span className="mute">{unit}</span>}
      </span>
      <Beneath note={note} path={path} />
    </div>
  );
}
