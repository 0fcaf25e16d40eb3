'use client';

import type { CameraPlace, Rig } from '@/core/rig';
import { PRACTICE_RIG } from '@/core/rig';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { useRoom } from '../../lesson/lesson-room';
import { Choice, NumberField, Pebbles, Reason } from '../choices';
import { deviceOptions, deviceSource, deviceValue, useDevices } from '../devices';
import { usePicture } from '../use-facts';

const CORNERS: { value: CameraPlace['corner']; label: string }[] = [
  { value: 'top-left', label: 'Top left' },
  { value: 'top-right', label: 'Top right' },
  { value: 'bottom-left', label: 'Bottom left' },
  { value: 'bottom-right', label: 'Bottom right' },
];

/** The camera and where it lies. */
export function CameraPanel() {
  const { rig, changeRig } = useRoom();
  const { cameras } = useDevices();
  const { camera } = rig;
  const pictureWidth = usePicture()?.width ?? 1280;
  const change = (part: Partial<NonNullable<Rig['camera']>>) =>
    changeRig((old) => ({ ...old, camera: { ...(old.camera ?? standard), ...part } }));
  const place = (part: Partial<CameraPlace>) => change({ place: { ...(camera ?? standard).place, ...part } });
  return (
    <div className="grid">
      <Choice
        name="Device"
        value={camera ? deviceValue(camera.source) : 'none'}
        options={[
          { value: 'none', label: 'No camera' },
          {
            label: 'Practice',
            options: PRACTICE_DEVICES.camera.map(({ id, name }) => ({
              value: `practice:${id}`,
              label: name,
            })),
          },
          { label: 'This computer', options: deviceOptions(camera?.source, cameras) },
        ]}
        onChange={(value) =>
          value === 'none'
            ? changeRig((old) => ({ ...old, camera: null }))
            : change({ source: deviceSource(value, cameras) })
        }
      />
      {camera && (
        <>
          <Choice
            name="Size"
            value={String(camera.size.height)}
            options={[
              { value: '360', label: '640 × 360' },
              { value: '720', label: '1280 × 720' },
            ]}
            onChange={(value) =>
              change({ size: value === '720' ? { width: 1280, height: 720 } : { width: 640, height: 360 } })
            }
          />
          <Choice
            name="Place"
            value={camera.place.free ? 'free' : camera.place.corner}
            options={[...CORNERS, ...(camera.place.free ? [{ value: 'free', label: 'Placed freely' }] : [])]}
            onChange={(value) =>
              value !== 'free' && place({ corner: value as CameraPlace['corner'], free: null })
            }
            note="Or draw it on the picture; it comes to rest in corners."
          />
          <NumberField
            name="Width"
            value={Math.round(camera.place.width * 100)}
            min={5}
            max={50}
            unit={widthNote(camera, pictureWidth)}
            onChange={(percent) => place({ width: percent / 100 })}
          />
          <Choice
            name="In the file"
            value={camera.place.mirror ? 'mirrored' : 'as-it-is'}
            options={[
              { value: 'as-it-is', label: 'As others see you' },
              { value: 'mirrored', label: 'Mirrored' },
            ]}
            onChange={(value) => place({ mirror: value === 'mirrored' })}
          />
          <Pebbles
            name="Shape"
            value={camera.place.shape}
            options={[
              { value: 'rounded', label: 'Rounded' },
              { value: 'circle', label: 'Circle' },
              { value: 'rectangle', label: 'Rectangle' },
              { value: 'tall', label: 'Whole height' },
            ]}
            onChange={(shape) => place({ shape })}
          />
        </>
      )}
      <Reason path="camera" />
    </div>
  );
}

/** The camera needs no more pixels than it is shown with. */
function widthNote({ place, size }: NonNullable<Rig['camera']>, pictureWidth: number): string {
  const shown = Math.round(place.width * pictureWidth);
  return `% of the picture, ${shown} pixels${shown > size.width ? `: more than its ${size.width}` : ''}`;
}

const standard = PRACTICE_RIG.camera as NonNullable<Rig['camera']>;
