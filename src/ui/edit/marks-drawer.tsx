'use client';

import { DeleteOutlined } from '@ant-design/icons';
import { Button, Input, Table } from 'antd';
import { useRef } from 'react';
import type { FrameRate } from '@/core/base/rational';
import { timecodeText } from '@/core/base/timecode';
import type { Cut } from '@/core/cut/cut';
import { markTitle, type PlacedMark, removeMark, renameMark } from '@/core/cut/marks';
import { Key } from '../keys/key';
import { SideDrawer } from './side-drawer';

type Props = {
  marks: readonly PlacedMark[];
  rate: FrameRate;
  onAdd: () => void;
  onShow: (mark: PlacedMark) => void;
  onChange: (make: (cut: Cut) => Cut, how?: 'step' | 'drag') => void;
  onClose: () => void;
};

const keyOf = ({ take, setUs }: PlacedMark) => `${take} ${setUs}`;

/** The marks of the video by their places. */
export function MarksDrawer({ marks, rate, onAdd, onShow, onChange, onClose }: Props) {
  /** The mark whose name is being typed: all of it is one step of undo. */
  const typing = useRef<string | null>(null);
  const rename = (mark: PlacedMark, title: string) => {
    onChange((cut) => renameMark(cut, mark, title), typing.current === keyOf(mark) ? 'drag' : 'step');
    typing.current = keyOf(mark);
  };
  return (
    <SideDrawer title="Marks" onClose={onClose}>
      <p className="mute">
        Drag a mark on the time strip, or select it there and press the arrow keys. The recorded marks stay in
        the take.
      </p>
      <Button block style={{ marginTop: 14 }} onClick={onAdd}>
        Add a mark at the playhead <Key of="edit.mark" />
      </Button>
      <Table
        style={{ marginTop: 14 }}
        dataSource={[...marks]}
        rowKey={keyOf}
        size="small"
        pagination={marks.length > 12 ? { pageSize: 12, showSizeChanger: false } : false}
        locale={{ emptyText: 'The video has no marks.' }}
        columns={[
          {
            title: 'At',
            key: 'at',
            width: 96,
            render: (_, mark, i) => (
              <Button size="small" type="link" className="fig" onClick={() => onShow(mark)}>
                {timecodeText(mark.us, rate)}
                <span className="sr-only">, go to {markTitle(mark, i)}</span>
              </Button>
            ),
          },
          {
            title: 'Title',
            key: 'title',
            render: (_, mark, i) => (
              <Input
                size="small"
                aria-label={`Title of mark ${i + 1}`}
                placeholder={markTitle({ title: '' }, i)}
                maxLength={200}
                value={mark.title}
                onChange={({ target }) => rename(mark, target.value)}
                onBlur={() => {
                  typing.current = null;
                }}
              />
            ),
          },
          {
            title: <span className="sr-only">Actions</span>,
            key: 'delete',
            width: 48,
            render: (_, mark, i) => (
              <Button
                size="small"
                type="text"
                icon={<DeleteOutlined />}
                aria-label={`Delete ${markTitle(mark, i)}`}
                onClick={() => onChange((cut) => removeMark(cut, mark))}
              />
            ),
          },
        ]}
      />
    </SideDrawer>
  );
}
