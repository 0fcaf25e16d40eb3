'use client';

import { EditOutlined } from '@ant-design/icons';
import { Button, Input } from 'antd';
import { useState } from 'react';

const MOST_TITLE = 200;

/** A heading that becomes a field when its pencil is pressed. Enter or leaving the field keeps what was typed, Escape does not. */
export function EditableTitle({
  title,
  heading: Heading,
  of,
  onChange,
}: {
  title: string;
  heading: 'h1' | 'h2';
  /** What is named, as in "the lesson". */
  of: string;
  onChange: (title: string) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const done = () => {
    const next = draft?.trim();
    if (next && next !== title) onChange(next);
    setDraft(null);
  };
  if (draft !== null)
    return (
      <Input
        style={{ maxWidth: 420, fontSize: 19, fontWeight: 650 }}
        aria-label={`Name of ${of}`}
        autoFocus
        value={draft}
        maxLength={MOST_TITLE}
        // Only near the end: until then it is of no interest.
        suffix={
          draft.length > MOST_TITLE - 20 && (
            <span className="small mute" role="status">{`${draft.length} of ${MOST_TITLE} characters`}</span>
          )
        }
        onChange={(event) => setDraft(event.target.value)}
        onPressEnter={done}
        onBlur={done}
        onKeyDown={(event) => event.key === 'Escape' && setDraft(null)}
      />
    );
  return (
    <>
      <Heading>{title}</Heading>
      <Button
        type="text"
        icon={<EditOutlined />}
        aria-label={`Rename ${of}`}
        onClick={() => setDraft(title)}
      />
    </>
  );
}
