'use client';

import { Select } from 'antd';
import type { ReactNode } from 'react';
import { useId } from 'react';
import { useSetUp } from './set-up-context';

export type Option = { value: string; label: string; disabled?: boolean };
type Group = { label: string; options: Option[] };

/** Why a value is what it is, for as long as it is as proposed. */
export function Reason({ path }: { path: string }) {
  const { reasons } = useSetUp();
  const reason = reasons[path];
  return reason ? <p className="small mute reason">{reason}</p> : null;
}

/** A named choice. The name is tied to the control, and what it means stands beneath. */
export function Choice(props: {
  name: string;
  value: string;
  options: (Option | Group)[];
  onChange: (value: string) => void;
  note?: ReactNode;
  /** Of the rig: its reason stands beneath. */
  path?: string;
}) {
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
      />
      {props.note && <p className="small mute">{props.note}</p>}
      {props.path && <Reason path={props.path} />}
    </div>
  );
}

/** A few words side by side, one of them chosen. */
export function Pebbles<T extends string>(props: {
  name: string;
  value: T;
  options: { value: T; label: string; disabled?: boolean }[];
  onChange: (value: T) => void;
  note?: ReactNode;
  path?: string;
}) {
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
      {props.note && <p className="small mute">{props.note}</p>}
      {props.path && <Reason path={props.path} />}
    </div>
  );
}

/** A number that can be typed. What is not one of the allowed says so and changes nothing. */
export function NumberField(props: {
  name: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: ReactNode;
  onChange: (value: number) => void;
  note?: ReactNode;
  path?: string;
}) {
  const id = useId();
  return (
    <div className="choice">
      <label className="lab" htmlFor={id}>
        {props.name}
      </label>
      <span className="number">
        <input
          id={id}
          type="number"
          key={props.value}
          defaultValue={props.value}
          min={props.min}
          max={props.max}
          step={props.step ?? 1}
          onChange={({ target }) => {
            if (target.value !== '' && target.validity.valid) props.onChange(target.valueAsNumber);
            else target.reportValidity();
          }}
        />
        {props.unit && <span className="mute">{props.unit}</span>}
      </span>
      {props.note && <p className="small mute">{props.note}</p>}
      {props.path && <Reason path={props.path} />}
    </div>
  );
}
