'use client';

import { Select } from 'antd';
import type { ReactNode } from 'react';
import { useId } from 'react';

export type Option = { value: string; label: string; disabled?: boolean };
type Group = { label: string; options: Option[] };

/** A named choice. The name is tied to the control, and what it means stands beneath. */
export function Choice(props: {
  name: string;
  value: string;
  options: (Option | Group)[];
  onChange: (value: string) => void;
  note?: ReactNode;
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
    </div>
  );
}

/** A few words side by side, one of them chosen. */
export function Pebbles<T extends string>(props: {
  name: string;
  value: T;
  options: { value: T; label: string }[];
  onChange: (value: T) => void;
}) {
  const id = useId();
  return (
    <fieldset className="pebbles">
      <legend className="lab">{props.name}</legend>
      {props.options.map(({ value, label }) => (
        <label key={value} className={value === props.value ? 'pebble on' : 'pebble'}>
          <input
            type="radio"
            name={id}
            className="sr-only"
            checked={value === props.value}
            onChange={() => props.onChange(value)}
          />
          {label}
        </label>
      ))}
    </fieldset>
  );
}
