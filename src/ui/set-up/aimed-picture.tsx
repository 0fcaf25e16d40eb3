'use client';

import { windowsOf } from '@/practice/windows';
import { useRoom, useSourceStates } from '../lesson/lesson-room';
import { LivePicture } from '../lesson/live-picture';
import { RegionEditor } from './region-editor';
import { useAspect, useSetUp } from './set-up-context';

/** What is recorded as it will be; while it is being aimed, all of the source with the region on it. */
export function AimedPicture({ aiming }: { aiming: boolean }) {
  const { session } = useRoom();
  const { rig, changePicture } = useSetUp();
  const states = useSourceStates(session);
  const [aspect] = useAspect();
  const { aim, source } = rig.picture;
  const size = states.screen?.size;
  const region = aiming && aim !== 'whole' && size ? { aim, size } : null;
  return (
    <LivePicture whole={Boolean(region)}>
      {region && (
        <RegionEditor
          region={region.aim}
          source={region.size}
          aspect={aspect}
          edges={source.from === 'practice' ? windowsOf(source.id) : []}
          onChange={(next) => changePicture({ aim: next })}
        />
      )}
    </LivePicture>
  );
}
