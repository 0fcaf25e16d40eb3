'use client';

import { Button, Flex, Tooltip } from 'antd';
import { sameValue } from '@/core/base/same-value';
import { changedSince, PURPOSES } from '@/core/rig/purposes';
import { useRoom } from '../lesson/lesson-room';
import { useSetUp } from './set-up-context';

/** The purpose that these choices started from, and the way to another one. */
export function RigLine({ open, onOpen }: { open: boolean; onOpen: () => void }) {
  const { lesson } = useRoom();
  const { rig, changeRig } = useSetUp();
  const { lastTime } = lesson;
  const changed = changedSince(rig).length;
  return (
    <Flex gap={12} align="center">
      <b>Rig</b>
      <span className="grow">
        {rig.purpose ? PURPOSES[rig.purpose.kind].name : 'Custom'}
        <span className="small mute">
          {rig.purpose
            ? changed === 0
              ? ', all as proposed'
              : `, ${changed} ${changed === 1 ? 'choice' : 'choices'} changed`
            : ', no purpose chosen'}
        </span>
      </span>
      {lastTime && !sameValue(lastTime.rig, rig) && (
        <Tooltip title={`The rig of “${lastTime.lesson}”, your last recording`}>
          <Button type="text" onClick={() => changeRig(() => lastTime.rig)}>
            Use last rig
          </Button>
        </Tooltip>
      )}
      <Button aria-label="Change the rig" aria-pressed={open} onClick={onOpen}>
        Change
      </Button>
    </Flex>
  );
}
