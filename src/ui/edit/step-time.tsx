'use client';

import { Button, Flex, Input, InputNumber, Select, Tooltip } from 'antd';
import { useId, useState } from 'react';
import { type Entry, SPEED, type Step, USUAL_ENTRY_US } from '@/core/cut/cut';
import { changeStep, hold } from '@/core/cut/edits';
import type { Player } from '@/player/player';
import { Slider } from '../fields/slider';
import type { CutKeeper } from './use-cut';
import type { Edits } from './use-edits';

const SPEEDS = [0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2, 3, 4, 6, 8];
/** As long as a line or two take to read. */
const USUAL_HOLD_S = 3;
const MOST_HOLD_S = 120;

const seconds = (us: number) => `${(us / 1e6).toFixed(1)} s`;

/** How fast a step is, what of it is held, how it begins, and what is to be remembered of it. */
export function StepTime(props: {
  step: Step;
  isFirst: boolean;
  keeper: CutKeeper;
  edits: Edits;
  player: Player | null;
}) {
  const { step, keeper, edits, player } = props;
  const ids = { speed: useId(), hold: useId(), note: useId() };
  const [holdS, setHoldS] = useState(USUAL_HOLD_S);
  const fitToText = async () => {
    const us = await player?.readingTime();
    // To half a second: it is an estimate.
    if (us) setHoldS(Math.round(us / 500_000) / 2);
  };
  return (
    <Flex vertical gap={8}>
      <div>
        <label className="lab" htmlFor={ids.speed}>
          Step speed
        </label>
        <Select
          id={ids.speed}
          style={{ width: '100%' }}
          value={step.speed}
          options={SPEEDS.map((value) => ({ value, label: `${value}×` }))}
          onChange={(speed) => edits.edit((cut) => changeStep(cut, step.id, { speed }))}
        />
        {step.speed > SPEED.mostHeard && <p className="small mute">Above 2×, the step is silent.</p>}
      </div>
      <div>
        <label className="lab" htmlFor={ids.hold}>
          Hold this frame
        </label>
        <Flex gap={6} wrap>
          <InputNumber
            id={ids.hold}
            style={{ width: 84 }}
            min={0.1}
            max={MOST_HOLD_S}
            step={0.5}
            suffix="s"
            value={holdS}
            onChange={(value) => setHoldS(value ?? USUAL_HOLD_S)}
          />
          <Button onClick={() => edits.edit((cut, atUs) => hold(cut, atUs, Math.round(holdS * 1e6)))}>
            Hold
          </Button>
          <Tooltip title="Sets how long the text of this frame takes to read.">
            <Button disabled={!player} onClick={() => void fitToText()}>
              Fit to text
            </Button>
          </Tooltip>
        </Flex>
      </div>
      {!props.isFirst && (
        <StepEntry
          entry={step.entry}
          onChange={(entry, how) => keeper.change(changeStep(keeper.cut, step.id, { entry }), how)}
        />
      )}
      <div>
        <label className="lab" htmlFor={ids.note}>
          Note
        </label>
        <Input.TextArea
          id={ids.note}
          autoSize={{ minRows: 2, maxRows: 5 }}
          maxLength={2000}
          placeholder="Not in the video"
          value={step.note}
          onChange={({ target }) => keeper.change(changeStep(keeper.cut, step.id, { note: target.value }))}
        />
      </div>
    </Flex>
  );
}

type Kind = Entry['kind'] | 'cut';

/** How a step begins after the one before it. */
function StepEntry(props: {
  entry: Entry | null;
  onChange: (entry: Entry | null, how?: 'step' | 'drag') => void;
}) {
  const { entry, onChange } = props;
  const id = useId();
  return (
    <div>
      <label className="lab" htmlFor={id}>
        Transition
      </label>
      <Select<Kind>
        id={id}
        style={{ width: '100%' }}
        value={entry?.kind ?? 'cut'}
        options={[
          { value: 'cut', label: 'Straight cut' },
          { value: 'dissolve', label: 'Dissolve' },
          { value: 'dip', label: 'Dip to dark' },
        ]}
        onChange={(kind) =>
          onChange(kind === 'cut' ? null : { kind, lengthUs: entry?.lengthUs ?? USUAL_ENTRY_US })
        }
      />
      {entry && (
        <Slider
          name="Length of the transition"
          min={0.1}
          max={3}
          step={0.1}
          value={entry.lengthUs / 1e6}
          text={seconds(entry.lengthUs)}
          colour="river"
          onChange={(value, how) => onChange({ ...entry, lengthUs: Math.round(value * 1e6) }, how)}
        />
      )}
      {entry && <span className="small fig">{seconds(entry.lengthUs)}</span>}
    </div>
  );
}
