'use client';

import { Modal, Select } from 'antd';
import { useEffect, useId, useState } from 'react';
import { clockText } from '@/core/base/figures';
import type { LessonId, TakeId } from '@/core/base/ids';
import type { Problem } from '@/core/base/problem';
import { problemOf } from '@/core/base/problem';
import type { OtherLesson } from '@/core/views/edit-page';
import { fetchJson } from '../wire/fetch-json';

/** Chooses a take of another lesson. It stays where it is: the cut points to it. */
export function OtherTakes(props: { lesson: LessonId; onAdd: (take: TakeId) => void; onClose: () => void }) {
  const id = useId();
  const [lessons, setLessons] = useState<OtherLesson[] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [take, setTake] = useState<TakeId | null>(null);
  useEffect(() => {
    fetchJson<OtherLesson[]>('GET', `/api/lessons/${props.lesson}/other-takes`).then(setLessons, (error) =>
      setProblem(problemOf(error)),
    );
  }, [props.lesson]);
  return (
    <Modal
      open
      title="Take of another lesson"
      okText="Add at the playhead"
      okButtonProps={{ disabled: !take }}
      onOk={() => take && props.onAdd(take)}
      onCancel={props.onClose}
    >
      <label className="lab" htmlFor={id}>
        Take
      </label>
      <Select<TakeId>
        id={id}
        style={{ width: '100%' }}
        showSearch={{ optionFilterProp: 'label' }}
        loading={!lessons && !problem}
        value={take}
        placeholder="Choose a take"
        notFoundContent={problem?.message ?? (lessons ? 'No other lesson has a take.' : 'Loading …')}
        options={lessons?.map(({ title, takes }) => ({
          label: title,
          options: takes.map((one) => ({
            value: one.id,
            label: `${one.title}, ${clockText(one.durationUs)}`,
          })),
        }))}
        onChange={setTake}
      />
      <p className="small mute">
        It is kept for as long as this lesson uses it, even when the other lesson is deleted.
      </p>
    </Modal>
  );
}
