'use client';

import { PlusOutlined } from '@ant-design/icons';
import { Button, Dropdown, type MenuProps } from 'antd';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { memo, useState } from 'react';
import { clockText } from '@/core/base/figures';
import type { TakeId } from '@/core/base/ids';
import { pieceLengthUs } from '@/core/cut/piece';
import { pieceOfTake } from '@/core/cut/whole-steps';
import type { EditPage } from '@/core/views/edit-page';
import { useRoom } from '../lesson/lesson-room';

const OtherTakes = dynamic(() => import('./other-takes').then((m) => m.OtherTakes), { ssr: false });

export type AddedTake = EditPage['takes'][number];

/** Adds a take as a step of its own where the playhead is: one of the lesson's, or one of another lesson. */
export const AddTake = memo(function AddTake(props: {
  takes: readonly AddedTake[];
  /** The stretch without head and tail; null where nothing is known of it. */
  trimmed: (take: AddedTake) => { inUs: number; outUs: number } | null;
  onAdd: (take: AddedTake) => void;
  /** Where the playhead is. */
  placeUs: () => number;
  /** Saves the cut before another page is shown. */
  flush: () => Promise<void>;
}) {
  const { trimmed, onAdd, placeUs, flush } = props;
  const { lesson } = useRoom();
  const router = useRouter();
  const [choosing, setChoosing] = useState(false);
  const goTo = async (page: string) => {
    await flush();
    router.push(`/lessons/${lesson.id}/${page}`);
  };
  const addOther = async (take: TakeId) => {
    setChoosing(false);
    await goTo(`edit?${new URLSearchParams({ brought: take, at: String(placeUs()), pages: '0' })}`);
    router.refresh();
  };
  const takes = props.takes.filter(({ own }) => own);
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
    { key: 'other', label: 'Take of another lesson' },
    { key: 'record', label: 'Record another take' },
  ];
  return (
    <>
      <Dropdown
        trigger={['click']}
        menu={{
          items,
          onClick: ({ key }) => {
            const take = takes.find(({ id }) => id === key);
            if (take) onAdd(take);
            else if (key === 'other') setChoosing(true);
            else void goTo('record');
          },
        }}
      >
        <Button size="small" icon={<PlusOutlined />} aria-label="Add a take">
          Add
        </Button>
      </Dropdown>
      {choosing && (
        <OtherTakes
          lesson={lesson.id}
          onAdd={(take) => void addOther(take)}
          onClose={() => setChoosing(false)}
        />
      )}
    </>
  );
});
