import { Alert, Button, Space } from 'antd';
import { useTold } from '../wire/use-told';

/** Two tabs changed the rig of one lesson: neither overwrites the other unasked. */
export function RigConflict({ onKeep }: { onKeep: () => Promise<void> }) {
  const told = useTold();
  return (
    <Alert
      className="rig-conflict"
      type="warning"
      showIcon
      title="The rig of this lesson was changed in another tab."
      description="Changes in this tab are not saved until you choose which rig to use."
      action={
        <Space>
          <Button onClick={() => told(onKeep())}>Use the rig of this tab</Button>
          <Button type="primary" onClick={() => window.location.reload()}>
            Reload
          </Button>
        </Space>
      }
    />
  );
}
