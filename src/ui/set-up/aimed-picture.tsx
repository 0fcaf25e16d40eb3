'use client';

import type { CSSProperties } from 'react';
import { evenDown, type Size } from '@/core/base/sizes';
import { firstKey } from '@/core/image/colour-key';
import { fitted } from '@/core/layout/fit';
import type { Rig } from '@/core/rig/rig';
import { isView, windowsIn } from '@/practice/desk/views';
import { pickColour } from '@/recorder/look';
import { RegionEditor } from '../drawing/region-editor';
import { useArrangement, useRoom, useSourceStates } from '../lesson/lesson-room';
import { LivePicture } from '../lesson/live-picture';
import { CameraEditor } from './camera-editor';
import { useAspect, usePicking, useSetUp } from './set-up-context';
import type { Stretch } from './stretches';

/** The preview of the recording; while source and capture area are chosen, the full frame with the region on it. */
export function AimedPicture({ open }: { open: Stretch }) {
  const { session } = useRoom();
  const { rig, changeRig, changePicture } = useSetUp();
  const states = useSourceStates(session);
  const arrangement = useArrangement(session);
  const [aspect] = useAspect();
  const [picking, setPicking] = usePicking();
  const { aim, source } = rig.picture;
  const size = states.screen?.size;
  const region = (open === 'source' || open === 'area') && aim !== 'whole' && size ? { aim, size } : null;
  const lost = open === 'picture' && size ? lostStyle(rig.picture, size) : null;
  return (
    <LivePicture whole={Boolean(region) || lost !== null}>
      {lost && (
        <div className="over region-shade" role="img" aria-label="What is shaded is cut off">
          <div className="kept-shade" style={lost} />
        </div>
      )}
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

/** The area that remains where a source fills a picture of another aspect ratio; null where nothing is cropped. */
function lostStyle(picture: Rig['picture'], source: Size): CSSProperties | null {
  if (picture.fit !== 'fill' || !picture.box) return null;
  const { crop } = fitted(picture, source);
  if (crop.width >= evenDown(source.width) && crop.height >= evenDown(source.height)) return null;
  const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;
  return {
    left: percent(crop.x, source.width),
    top: percent(crop.y, source.height),
    width: percent(crop.width, source.width),
    height: percent(crop.height, source.height),
  };
}
