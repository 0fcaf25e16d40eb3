'use client';

import { useRef } from 'react';

/** A button that asks for one file. The field behind it has a name of its own, so that a file can be put into it without the dialog. */
export function FileButton(props: {
  label: string;
  /** What the field is called. */
  field: string;
  /** Kinds of files, as the `accept` attribute has them. */
  accept: string;
  className?: string;
  onFile: (file: File) => unknown;
}) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" className={props.className ?? 'act'} onClick={() => field.current?.click()}>
        {props.label}
      </button>
      <input
        ref={field}
        type="file"
        accept={props.accept}
        className="sr-only"
        aria-label={props.field}
        tabIndex={-1}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) void props.onFile(file);
          // The same file can be chosen again after it was changed.
          target.value = '';
        }}
      />
    </>
  );
}
