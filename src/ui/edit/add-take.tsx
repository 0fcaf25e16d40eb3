'use client';

import { PlusOutlined } from '@ant-design/icons';
import { Button, Dropdown, type MenuProps } from 'antd';
import { clockText } from '@/core/base/figures';
import { pieceLengthUs } from '@/core/cut/piece';
import { pieceOfTake } from '@/core/cut/whole-steps';
import type { EditPage } from '@/core/views/edit-page';

export type AddedTake = EditPage['takes'][number];

/** Adds one of the lesson's takes as a step of its own, where the playhead is. */
export function AddTake(props: {
  takes: readonly AddedTake[];
  /** The stretch without head and tail; null where nothing is known of it. */
  trimmed: (take: AddedTake) => { inUs: number; outUs: number } | null;
  onAdd: (take: AddedTake) => void;
  onRecord: () => void;
}) {
  const { takes, trimmed, onAdd, onRecord } = props;
  const items: MenuProps['items'] = [
    {
      type: 'group',
      label: 'At the playhead, both ends trimmed',
      children: takes.map((take) => ({
        key: take.id,
        label: `${take.title}, ${clockText(pieceLengthUs(pieceOfTake(take, trimmed(take))))}`,
      })),
    },
    { type: 'divider' },
    { key: 'record', label: 'Record another take' },
  ];
  return (
    <Dropdown
      trigger={['click']}
      menu={{
        items,
        onClick: ({ key }) => {
          const take = takes.find(({ id }) => id === key);
          if (take) onAdd(take);
          else onRecord();
        },
      }}
    >
      <Button size="small" icon={<PlusOutlined />} aria-label="Add a take">
        Add
      </Button>
    </Dropdown>
  );
}
