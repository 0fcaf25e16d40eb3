'use client';

import { firstKey } from '@/core/colour-key';
import { fitted } from '@/core/fit';
import { isView, windowsIn } from '@/practice/desk/views';
import { pickColour } from '@/recorder/look';
import { useArrangement, useRoom, useSourceStates } from '../lesson/lesson-room';
import { LivePicture } from '../lesson/live-picture';
import { CameraEditor } from './camera-editor';
import { RegionEditor } from './region-editor';
import { useAspect, usePicking, useSetUp } from './set-up-context';
import type { Stretch } from './stretches';

/** What is recorded as it will be; while it is being aimed, all of the source with the region on it. */
export function AimedPicture({ open }: { open: Stretch }) {
  const { session } = useRoom();
  const { rig, changeRig, changePicture } = useSetUp();
  const states = useSourceStates(session);
  const arrangement = useArrangement(session);
  const [aspect] = useAspect();
  const [picking, setPicking] = usePicking();
  const { aim, source } = rig.picture;
  const size = states.screen?.size;
  const region = open === 'aim' && aim !== 'whole' && size ? { aim, size } : null;
  return (
    <LivePicture whole={Boolean(region)}>
      {region && (
        <RegionEditor
          region={region.aim}
          source={region.size}
          aspect={aspect}
          edges={
            source.from === 'practice' && isView(source.id)
              ? windowsIn(source.id, arrangement).map(({ box }) => box)
              : []
          }
          onChange={(next) => changePicture({ aim: next })}
        />
      )}
      {open === 'camera' && rig.camera && size && (
        <CameraEditor
          picture={fitted(rig.picture, size).size}
          camera={states.camera?.size ?? rig.camera.size}
          place={rig.camera.place}
          onPick={
            picking && session
              ? (at) => {
                  setPicking(false);
                  void pickColour(session, 'camera', at).then((colour) =>
                    changeRig((old) => ({
                      ...old,
                      camera: old.camera && {
                        ...old.camera,
                        place: {
                          ...old.camera.place,
                          key: firstKey(colour),
                        },
                      },
                    })),
                  );
                }
              : undefined
          }
          onChange={(place) =>
            changeRig((old) => ({ ...old, camera: old.camera && { ...old.camera, place } }))
          }
        />
      )}
    </LivePicture>
  );
}
