'use client';

import { TimePicker } from 'antd';
import dayjs from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat';
import { useId } from 'react';

dayjs.extend(customParseFormat);

/** A time of day to the second, as `HH:mm:ss`; empty when there is none. */
export function TimeField(props: { name: string; value: string; onChange: (time: string) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id}>{props.name}</label>
      <TimePicker
        id={id}
        format="HH:mm:ss"
        value={props.value === '' ? null : dayjs(props.value, 'HH:mm:ss')}
        needConfirm={false}
        onChange={(time) => props.onChange(time ? time.format('HH:mm:ss') : '')}
      />
    </>
  );
}
