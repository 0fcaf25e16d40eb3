'use client';

import { Flex, Input } from 'antd';
import { useEffect, useState } from 'react';
import { MOST_LENGTH_S, readLength, typedLength } from '@/core/base/length';

/** A length that is typed as `m:ss`. It is committed on Enter and when the field is left; what is no length says so and changes nothing. */
export function LengthField(props: {
  label: string;
  /** Seconds; null while none is set. */
  value: number | null;
  onChange: (seconds: number) => void;
}) {
  const { value, onChange } = props;
  const shown = value === null ? '' : typedLength(value);
  const [draft, setDraft] = useState(shown);
  const [wrong, setWrong] = useState(false);
  useEffect(() => {
    setDraft(shown);
    setWrong(false);
  }, [shown]);
  const commit = () => {
    if (draft === shown) return setWrong(false);
    const seconds = readLength(draft);
    setWrong(seconds === null);
    if (seconds === null) setDraft(shown);
    else onChange(seconds);
  };
  return (
    <Flex gap={8} align="center">
      <Input
        style={{ width: 100 }}
        aria-label={props.label}
        aria-invalid={wrong}
        placeholder="m:ss"
        status={wrong ? 'error' : undefined}
        value={draft}
        onChange={({ target }) => setDraft(target.value)}
        onPressEnter={commit}
        onBlur={commit}
      />
      <span className="mute">m:ss</span>
      {wrong && (
        <span className="small amber" role="alert">
          Enter a length from 0:01 to {typedLength(MOST_LENGTH_S)}.
        </span>
      )}
    </Flex>
  );
}
