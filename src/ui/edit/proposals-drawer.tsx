'use client';

import { Button, Flex, Space, Table } from 'antd';
import type { FrameRate } from '@/core/base/rational';
import { timecodeText } from '@/core/base/timecode';
import type { Proposal, Tightening } from '@/core/cut/proposals';
import { NumberField } from '../fields/choices';
import { SideDrawer } from './side-drawer';

const NAMES: Record<Proposal['kind'], string> = {
  stumble: 'Sentence before a mark',
  head: 'Before the first word',
  tail: 'After the last word',
  pause: 'Pause',
};

const lengthText = ({ fromUs, toUs }: Proposal) => `${((toUs - fromUs) / 1e6).toFixed(1)} s`;

type Props = {
  list: readonly Proposal[];
  rate: FrameRate;
  tightening: Tightening;
  onTightening: (next: Tightening) => void;
  onShow: (proposal: Proposal) => void;
  /** Plays the joint as it would become. */
  onPreview: (proposal: Proposal) => void;
  onAccept: (accepted: readonly Proposal[]) => void;
  onClose: () => void;
};

/** What could be left out, with a preview of each joint. */
export function ProposalsDrawer(props: Props) {
  const { list, rate, tightening, onTightening, onShow, onPreview, onAccept, onClose } = props;
  const sum = list.reduce((all, { fromUs, toUs }) => all + toUs - fromUs, 0);
  return (
    <SideDrawer title="Proposals" onClose={onClose}>
      <TighteningFields tightening={tightening} onChange={onTightening} />
      <Button
        color="primary"
        variant="filled"
        block
        disabled={list.length === 0}
        onClick={() => onAccept(list)}
      >
        {list.length > 0 ? `Accept all, ${(sum / 1e6).toFixed(1)} s` : 'Accept all'}
      </Button>
      <Table
        style={{ marginTop: 14 }}
        dataSource={[...list]}
        rowKey="fromUs"
        size="small"
        pagination={list.length > 12 ? { pageSize: 12, showSizeChanger: false } : false}
        locale={{ emptyText: 'No long pauses and no marks.' }}
        columns={[
          {
            title: 'At',
            key: 'at',
            render: (_, one) => (
              <Button type="link" size="small" style={{ padding: 0 }} onClick={() => onShow(one)}>
                <span className="fig">{timecodeText(one.fromUs, rate)}</span>
              </Button>
            ),
          },
          { title: 'Cut', key: 'what', render: (_, { kind }) => NAMES[kind] },
          { title: 'Length', key: 'length', align: 'right', render: (_, one) => lengthText(one) },
          {
            title: <span className="sr-only">Actions</span>,
            key: 'acts',
            render: (_, one) => {
              const at = timecodeText(one.fromUs, rate);
              return (
                <Space.Compact size="small">
                  <Button aria-label={`Play the joint at ${at}`} onClick={() => onPreview(one)}>
                    Play
                  </Button>
                  <Button aria-label={`Accept the proposal at ${at}`} onClick={() => onAccept([one])}>
                    Accept
                  </Button>
                </Space.Compact>
              );
            },
          },
        ]}
      />
    </SideDrawer>
  );
}

/** Which pauses are long, and what is left of them. */
function TighteningFields({
  tightening,
  onChange,
}: {
  tightening: Tightening;
  onChange: (next: Tightening) => void;
}) {
  return (
    <Flex gap={24} style={{ marginBottom: 10 }}>
      <NumberField
        name="Pauses over"
        unit="s"
        value={tightening.overUs / 1e6}
        min={0.4}
        max={10}
        step={0.1}
        onChange={(seconds) => {
          const overUs = Math.round(seconds * 1e6);
          onChange({ overUs, leaveUs: Math.min(tightening.leaveUs, Math.round(overUs / 2)) });
        }}
      />
      <NumberField
        name="Leave"
        unit="s"
        value={tightening.leaveUs / 1e6}
        min={0.1}
        max={tightening.overUs / 2e6}
        step={0.1}
        onChange={(seconds) => onChange({ ...tightening, leaveUs: Math.round(seconds * 1e6) })}
      />
    </Flex>
  );
}
