import { CloseOutlined } from '@ant-design/icons';
import { Button, Flex, Space } from 'antd';
import { newStepId, type StepId } from '@/core/base/ids';
import type { Cut } from '@/core/cut/cut';
import { duplicateSteps, joinSteps, removeSteps } from '@/core/cut/whole-steps';

/** What can be done with the selected steps at once. */
export function SelectedSteps(props: {
  selected: readonly StepId[];
  cut: Cut;
  edit: (make: (cut: Cut) => Cut) => void;
  onClear: () => void;
}) {
  const { selected, cut, edit, onClear } = props;
  const joined = joinSteps(cut, selected);
  const act = (make: (cut: Cut) => Cut) => () => {
    edit(make);
    onClear();
  };
  return (
    <Flex gap={4} align="center" role="group" aria-label="Selected steps" style={{ marginTop: 8 }}>
      <span className="small mute" role="status" style={{ whiteSpace: 'nowrap' }}>
        {selected.length} selected
      </span>
      <Space.Compact size="small">
        <Button size="small" onClick={act((now) => duplicateSteps(now, selected, newStepId))}>
          Duplicate
        </Button>
        <Button size="small" disabled={joined === cut} onClick={act((now) => joinSteps(now, selected))}>
          Join
        </Button>
        <Button
          size="small"
          danger
          disabled={selected.length === cut.steps.length}
          onClick={act((now) => removeSteps(now, selected))}
        >
          Delete
        </Button>
      </Space.Compact>
      <Button
        size="small"
        type="text"
        icon={<CloseOutlined />}
        aria-label="Clear the selection of steps"
        title="Clear the selection"
        onClick={onClear}
      />
    </Flex>
  );
}
