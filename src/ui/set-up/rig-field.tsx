'use client';

import { type ReactNode, useState } from 'react';
import { sameValue } from '@/core/base/same-value';
import { type FieldPath, fieldNames, RIG_CHOICES } from '@/core/rig/rig-choices';
import { type ValueAt, valueAt, withValue } from '@/core/rig/rig-values';
import { Choice, type Explained, NumberField, Pebbles } from '../fields/choices';
import { useSetUp } from './set-up-context';

/** What every field of the rig is given: where its value lies. Its name, effect and reason come from there. */
type Field<P extends FieldPath> = {
  path: P;
  /** Where the name says more than the list knows. */
  name?: string;
  note?: ReactNode;
  /** Changes more than this value with it. */
  onChange?: (value: ValueAt<P>) => void;
};
type RigOption<P extends FieldPath> = { value: ValueAt<P>; label: string; disabled?: boolean };

/** A field's value, how it is changed, and everything that is said of it. */
function useRigField<P extends FieldPath>({ path, name, note, onChange }: Field<P>) {
  const { rig, changeRig } = useSetUp();
  const names = fieldNames(path);
  const explained: Explained & { name: string } = {
    name: name ?? names.name,
    effect: names.does,
    note,
    path,
  };
  return {
    rig,
    value: valueAt(rig, path),
    change: onChange ?? ((value: ValueAt<P>) => changeRig((old) => withValue(old, path, value))),
    explained,
  };
}

/** A value as the key of an option: words as they are. */
const keyOf = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

/** Entries of a list begin with a capital; in the middle of a sentence the same words do not. */
const entry = (words: string): string => `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;

const CUSTOM = 'custom';

/** One of a list. A value that is not in the list is shown in words, and stays until another is chosen. */
export function RigSelect<P extends FieldPath>(
  props: Field<P> & {
    options: readonly (RigOption<P> | { label: string; options: RigOption<P>[] })[];
    /** Sets any other value; shown below the list when “Custom” is chosen there. */
    custom?: ReactNode;
  },
) {
  const { rig, value, change, explained } = useRigField(props);
  const [customWanted, setCustomWanted] = useState(false);
  const all = props.options.flatMap((option) => ('options' in option ? option.options : [option]));
  const keyed = ({ value: each, label, ...rest }: RigOption<P>) => ({
    ...rest,
    label: entry(label),
    value: keyOf(each),
  });
  const options = props.options.map((option) =>
    'options' in option ? { ...option, options: option.options.map(keyed) } : keyed(option),
  );
  const listed = all.find((option) => sameValue(option.value, value));
  const custom = props.custom !== undefined && (customWanted || !listed);
  if (props.custom) options.push({ value: CUSTOM, label: 'Custom …' });
  else if (!listed) {
    const words = RIG_CHOICES.find(({ path }) => path === props.path)?.words(rig) ?? keyOf(value);
    options.push({ value: keyOf(value), label: entry(words) });
  }
  return (
    <Choice
      {...explained}
      note={
        custom ? (
          <>
            {props.custom}
            {explained.note}
          </>
        ) : (
          explained.note
        )
      }
      value={custom ? CUSTOM : keyOf((listed ?? { value }).value)}
      options={options}
      onChange={(key) => {
        setCustomWanted(key === CUSTOM);
        const chosen = all.find((option) => keyOf(option.value) === key);
        if (chosen) change(chosen.value);
      }}
    />
  );
}

/** One of a few, all of them in sight. */
export function RigSegmented<P extends FieldPath>(props: Field<P> & { options: readonly RigOption<P>[] }) {
  const { value, change, explained } = useRigField(props);
  return (
    <Pebbles
      {...explained}
      value={keyOf(value)}
      options={props.options.map(({ value: each, ...rest }) => ({ ...rest, value: keyOf(each) }))}
      onChange={(key) => {
        const chosen = props.options.find((option) => keyOf(option.value) === key);
        if (chosen) change(chosen.value);
      }}
    />
  );
}

/** Paths whose value is a number. */
type NumberPath = { [P in FieldPath]: ValueAt<P> extends number ? P : never }[FieldPath];

/**
 * A number with its unit.
 * @param per how many of the shown unit one of the rig's is: 100 for a share that is shown in %
 */
export function RigNumber<P extends NumberPath>(
  props: Field<P> & { min: number; max: number; step?: number; unit: ReactNode; per?: number },
) {
  const { per = 1, min, max, step, unit } = props;
  const { value, change, explained } = useRigField(props);
  const shown = per === 1 ? (value as number) : Math.round((value as number) * per);
  return (
    <NumberField
      {...explained}
      {...{ min, max, step, unit }}
      value={shown}
      onChange={(next) => change((next / per) as ValueAt<P>)}
    />
  );
}
