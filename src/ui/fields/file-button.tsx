'use client';

import { Button, Upload } from 'antd';

/** A button that asks for one file. The field behind it has a name of its own, so that a file can be put into it without the dialog. */
export function FileButton(props: {
  label: string;
  /** What the field is called. */
  field: string;
  /** Kinds of files, as the `accept` attribute has them. */
  accept: string;
  type?: 'primary' | 'text';
  onFile: (file: File) => unknown;
}) {
  return (
    <Upload
      accept={props.accept}
      showUploadList={false}
      aria-label={props.field}
      // Read here; nothing is sent anywhere by the component.
      beforeUpload={(file) => {
        void props.onFile(file);
        return false;
      }}
    >
      <Button type={props.type}>{props.label}</Button>
    </Upload>
  );
}
