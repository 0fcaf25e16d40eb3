'use client';

import { changedSince, PURPOSES } from '@/core/purposes';
import { useSetUp } from './set-up-context';

/** What these choices were begun from, and the way to begin from something else. */
export function RigLine({ open, onOpen }: { open: boolean; onOpen: () => void }) {
  const { rig } = useSetUp();
  const changed = changedSince(rig).length;
  return (
    <button type="button" className={open ? 'rig-line on' : 'rig-line'} aria-pressed={open} onClick={onOpen}>
      <b>Rig</b>
      <span className="grow">
        {rig.purpose ? PURPOSES[rig.purpose.kind].name : 'own choices'}
        <span className="small mute">
          {rig.purpose
            ? changed === 0
              ? ', all as proposed'
              : `, ${changed} ${changed === 1 ? 'choice' : 'choices'} changed`
            : ', begun from no purpose'}
        </span>
      </span>
      <span className="small">begin, save, compare</span>
    </button>
  );
}
