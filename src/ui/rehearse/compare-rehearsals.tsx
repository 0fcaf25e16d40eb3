'use client';

import { Modal, Table } from 'antd';
import { bytesText } from '@/core/base/figures';
import { fpsText } from '@/core/base/rational';
import { clarityText } from '@/core/image/clarity';
import { slowdown } from '@/core/rehearsal/load';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import { STAGE_NAMES } from '@/core/rehearsal/verdict';
import { differences } from '@/core/rig/rig-choices';

type Figure = { name: string; of: (rehearsal: RehearsalView) => string };

const ms = (value: number) => `${value.toFixed(value < 10 ? 1 : 0)} ms`;
const percent = (share: number) => `${Math.round(share * 100)} %`;

const FIGURES: readonly Figure[] = [
  {
    name: 'Recorded frame rate',
    of: ({ figures }) => `${fpsText(Math.round(figures.recordedFps * 10) / 10)} fps`,
  },
  { name: 'Dropped frames', of: ({ figures }) => String(figures.dropped) },
  { name: 'Frames not delivered', of: ({ figures }) => String(figures.missed) },
  { name: 'Late frames', of: ({ figures }) => String(figures.late) },
  {
    name: 'Encode time, median / p95',
    of: ({ figures }) => `${ms(figures.encodeP50Ms)} / ${ms(figures.encodeP95Ms)}`,
  },
  { name: 'Longest write', of: ({ figures }) => ms(figures.writeMostMs) },
  { name: 'Page busy', of: ({ figures }) => ms(figures.longTasksMs) },
  { name: 'Gaps in the sound', of: ({ figures }) => ms(figures.soundGapsMs) },
  {
    name: 'Upload behind',
    of: ({ figures }) => (figures.uploadBehindMs === null ? 'not known' : ms(figures.uploadBehindMs)),
  },
  { name: 'Size per minute', of: ({ figures }) => bytesText(figures.bytesPerMinute) },
  {
    name: 'Text clarity',
    of: ({ clarity }) =>
      clarity
        ? `${clarityText(clarity)}: ${clarity.mean.toFixed(3)}, worst ${clarity.worst.toFixed(3)}`
        : 'no text found',
  },
  { name: 'Processor', of: ({ load }) => (load ? percent(load.during.cpu) : 'not known') },
  {
    name: 'Taken from your program',
    of: ({ yardstick }) => (yardstick ? percent(slowdown(yardstick)) : 'not known'),
  },
  {
    name: 'Too slow',
    of: ({ diagnosis }) => diagnosis.faults.map(({ stage }) => STAGE_NAMES[stage]).join(', ') || 'nothing',
  },
];

/** Two rehearsals side by side: what differs in their rigs, and every figure. */
export function CompareRehearsals(props: {
  older: RehearsalView;
  newer: RehearsalView;
  onClose: () => void;
}) {
  const { older, newer, onClose } = props;
  const choices = differences(older.rig, newer.rig).map(({ name, words }) => ({
    name,
    older: words(older.rig),
    newer: words(newer.rig),
  }));
  const figures = FIGURES.map(({ name, of }) => ({ name, older: of(older), newer: of(newer) }));
  return (
    <Modal open title="Two rehearsals side by side" footer={null} onCancel={onClose} width={760}>
      <Table
        size="small"
        pagination={false}
        rowKey="name"
        dataSource={[...choices, ...figures]}
        rowClassName={(row) => (row.older === row.newer ? 'mute' : 'fig')}
        columns={[
          { title: <span className="sr-only">Figure</span>, dataIndex: 'name', rowScope: 'row' },
          { title: `Rehearsal ${older.number}`, dataIndex: 'older' },
          { title: `Rehearsal ${newer.number}`, dataIndex: 'newer' },
        ]}
      />
    </Modal>
  );
}
