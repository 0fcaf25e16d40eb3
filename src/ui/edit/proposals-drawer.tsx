'use client';

import { Button, Checkbox, Flex, Space, Table } from 'antd';
import type { FrameRate } from '@/core/base/rational';
import { timecodeText } from '@/core/base/timecode';
import { gainedUs, type Proposal, type Tightening } from '@/core/cut/proposals';
import { NumberField } from '../fields/choices';
import { ACTIONS, type Action } from './proposal-actions';
import { SideDrawer } from './side-drawer';

const NAMES: Record<Proposal['kind'], string> = {
  stumble: 'Sentence before a mark',
  head: 'Before the first word',
  tail: 'After the last word',
  pause: 'Pause',
  still: 'Still picture, no voice',
  zoom: 'Clicks',
};

const actionText = (proposal: Proposal): string => {
  if (proposal.kind === 'still') return `Speed up to ${proposal.speed}×`;
  return proposal.kind === 'zoom' ? 'Zoom in' : 'Cut';
};

const lengthText = ({ fromUs, toUs }: Proposal) => `${((toUs - fromUs) / 1e6).toFixed(1)} s`;

/** What accepting all of them comes to. */
function allText(list: readonly Proposal[]): string {
  if (list.length === 0) return 'Accept all';
  const gained = list.reduce((sum, one) => sum + gainedUs(one), 0);
  return gained > 0 ? `Accept all, ${(gained / 1e6).toFixed(1)} s shorter` : 'Accept all';
}

type Props = {
  /** Those that are listed, and how many there are of each action. */
  list: readonly Proposal[];
  counts: Record<Action, number>;
  actions: readonly Action[];
  onActions: (next: Action[]) => void;
  rate: FrameRate;
  tightening: Tightening;
  onTightening: (next: Tightening) => void;
  onShow: (proposal: Proposal) => void;
  /** Plays the place as it would become. */
  onPreview: (proposal: Proposal) => void;
  onAccept: (accepted: readonly Proposal[]) => void;
  onClose: () => void;
};

/** What could be done with the video, with a preview of each. */
export function ProposalsDrawer(props: Props) {
  const { list, counts, actions, rate, tightening, onTightening, onShow, onPreview, onAccept, onClose } =
    props;
  return (
    <SideDrawer title="Proposals" onClose={onClose}>
      <Checkbox.Group<Action>
        aria-label="Proposals to list"
        style={{ marginBottom: 14 }}
        value={[...actions]}
        options={ACTIONS.map(({ value, label }) => ({ value, label: `${label} (${counts[value]})` }))}
        onChange={props.onActions}
      />
      <TighteningFields tightening={tightening} onChange={onTightening} />
      <Button
        color="primary"
        variant="filled"
        block
        disabled={list.length === 0}
        onClick={() => onAccept(list)}
      >
        {allText(list)}
      </Button>
      <Table
        style={{ marginTop: 14 }}
        dataSource={[...list]}
        rowKey={({ kind, fromUs }) => `${kind} ${fromUs}`}
        size="small"
        pagination={list.length > 12 ? { pageSize: 12, showSizeChanger: false } : false}
        locale={{ emptyText: 'No long pauses, still stretches, marks or clicks.' }}
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
          {
            title: 'Proposal',
            key: 'what',
            render: (_, one) => (
              <>
                {NAMES[one.kind]}
                <div className="small mute">{actionText(one)}</div>
              </>
            ),
          },
          { title: 'Length', key: 'length', align: 'right', render: (_, one) => lengthText(one) },
          {
            title: <span className="sr-only">Actions</span>,
            key: 'acts',
            render: (_, one) => {
              const at = timecodeText(one.fromUs, rate);
              return (
                <Space.Compact size="small">
                  <Button aria-label={`Play the proposal at ${at}`} onClick={() => onPreview(one)}>
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
