'use client';

import { Button, Checkbox, Table, type TableColumnsType, Tag } from 'antd';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { bytesText } from '@/core/base/figures';
import type { RehearsalId } from '@/core/base/ids';
import { fpsText } from '@/core/base/rational';
import { sameValue } from '@/core/base/same-value';
import { clarityText } from '@/core/image/clarity';
import type { RehearsalView } from '@/core/rehearsal/rehearsal';
import { differences } from '@/core/rig/rig-choices';
import { useRoom } from '../lesson/lesson-room';
import { CompareRehearsals } from './compare-rehearsals';

type Props = {
  list: readonly RehearsalView[];
  shown: RehearsalView;
  onShow: (id: RehearsalId) => void;
};

/** Every rehearsal of the lesson: what was changed from the one before, and what that did. */
export function Ledger({ list, shown, onShow }: Props) {
  const { rig, changeRig } = useRoom();
  const [compared, setCompared] = useState<RehearsalId[]>([]);
  const pair = list.filter(({ id }) => compared.includes(id));
  const [newer, older] = pair;
  return (
    <section aria-label="Ledger">
      <Table
        size="small"
        rowKey="id"
        dataSource={[...list]}
        pagination={list.length > 8 ? { pageSize: 8, showSizeChanger: false } : false}
        rowClassName={({ id }) => (id === shown.id ? 'shown' : '')}
        columns={[
          {
            ...{ title: 'Try', key: 'number', width: 52, rowScope: 'row' },
            render: (_, { id, number }) => (
              <Button
                type="link"
                size="small"
                aria-label={`Show rehearsal ${number}`}
                onClick={() => onShow(id)}
              >
                {number}
              </Button>
            ),
          },
          {
            ...{ title: 'Change', key: 'change' },
            render: (_, one) => (
              <Change of={one} before={list.find(({ number }) => number === one.number - 1)} />
            ),
          },
          ...FIGURES,
          {
            ...{ title: <span className="sr-only">Use</span>, key: 'use', align: 'right' },
            render: (_, one) =>
              sameValue(one.rig, rig) ? (
                <Tag>in use</Tag>
              ) : (
                <Button size="small" onClick={() => changeRig(() => one.rig)}>
                  Use this
                </Button>
              ),
          },
          {
            ...{ title: <span className="sr-only">Compare</span>, key: 'compare', width: 34 },
            render: (_, { id, number }) => (
              <Checkbox
                aria-label={`Compare rehearsal ${number}`}
                checked={compared.includes(id)}
                onChange={({ target }) =>
                  setCompared((old) =>
                    target.checked ? [...old.slice(-1), id] : old.filter((each) => each !== id),
                  )
                }
              />
            ),
          },
        ]}
      />
      {list.length > 1 && (
        <p className="small mute">
          {newer && older ? null : 'Tick two rehearsals to compare them side by side.'}
        </p>
      )}
      {newer && older && <CompareRehearsals older={older} newer={newer} onClose={() => setCompared([])} />}
    </section>
  );
}

/** What differs from the rehearsal before, in the rig's own words. */
function Change({ of, before }: { of: RehearsalView; before: RehearsalView | undefined }) {
  if (!before) return <b>Starting rig</b>;
  const changed = differences(before.rig, of.rig);
  if (changed.length === 0) return <span className="mute">Same rig</span>;
  return changed.map(({ path, name, words }) => (
    <span key={path} className="change">
      <b>{name}</b>{' '}
      <span className="mute">
        {words(before.rig)} → {words(of.rig)}
      </span>
    </span>
  ));
}

const FIGURES: TableColumnsType<RehearsalView> = [
  {
    title: 'Recorded fps',
    key: 'recorded',
    render: (_, { figures: { recordedFps, targetFps } }) => (
      <span className="row recorded">
        <RateBar recorded={recordedFps} target={targetFps} />
        <span>
          <b>{fpsText(Math.round(recordedFps * 10) / 10)}</b>{' '}
          <span className="mute">of {fpsText(targetFps)}</span>
        </span>
      </span>
    ),
  },
  {
    title: 'Dropped',
    key: 'dropped',
    align: 'right',
    render: (_, { figures: { dropped, missed } }) => dropped + missed,
  },
  {
    title: 'Size/min',
    key: 'size',
    align: 'right',
    render: (_, { figures }) => bytesText(figures.bytesPerMinute),
  },
  { title: 'Text', key: 'text', render: (_, { clarity }) => (clarity ? clarityText(clarity) : '–') },
];

function RateBar({ recorded, target }: { recorded: number; target: number }) {
  const x = scaleLinear([0, target], [0, 92]).clamp(true);
  return (
    <svg width="96" height="12" viewBox="0 0 96 12" aria-hidden="true">
      <rect y="2" width="92" height="8" rx="4" fill="var(--sunken)" />
      <rect
        y="2"
        width={x(recorded)}
        height="8"
        rx="4"
        fill={recorded > 0.995 * target ? 'var(--river)' : 'var(--ink-3)'}
      />
      <rect x="90" width="2" height="12" fill="var(--ink)" />
    </svg>
  );
}
