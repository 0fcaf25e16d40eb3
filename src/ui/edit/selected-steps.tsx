import { Button, Flex, Space } from 'antd';
import { newStepId, type StepId } from '@/core/base/ids';
import type { Cut } from '@/core/cut/cut';
import { duplicateSteps, joinSteps, removeSteps } from '@/core/cut/whole-steps';

/** What can be done with the selected steps at once. */
export function SelectedSteps(props: {
  selected: readonly StepId[];
  /** How many steps there are. */
  of: number;
  edit: (make: (cut: Cut) => Cut) => void;
  onClear: () => void;
}) {
  const { selected, edit, onClear } = props;
  const act = (make: (cut: Cut) => Cut) => () => {
    edit(make);
    onClear();
  };
  return (
    <Flex gap={8} wrap align="center" role="group" aria-label="Selected steps">
      <span className="small mute" role="status">
        {selected.length} selected
      </span>
      <Space.Compact size="small">
        <Button size="small" onClick={act((cut) => duplicateSteps(cut, selected, newStepId))}>
          Duplicate
        </Button>
        <Button size="small" disabled={selected.length < 2} onClick={act((cut) => joinSteps(cut, selected))}>
          Join
        </Button>
        <Button
          size="small"
          danger
          disabled={selected.length === props.of}
          onClick={act((cut) => removeSteps(cut, selected))}
        >
          Delete
        </Button>
      </Space.Compact>
      <Button size="small" type="link" onClick={onClear}>
        Clear
      </Button>
    </Flex>
  );
}
