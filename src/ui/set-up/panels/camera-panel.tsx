'use client';

import type { CameraPlace, Rig } from '@/core/rig';
import { PRACTICE_RIG } from '@/core/rig';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { useRoom } from '../../lesson/lesson-room';
import { Choice, Pebbles, Reason } from '../choices';
import { deviceOptions, deviceSource, deviceValue, useDevices } from '../devices';

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
            value={camera.place.corner}
            options={CORNERS}
            onChange={(value) => place({ corner: value as CameraPlace['corner'] })}
          />
          <Pebbles
            name="Shape"
            value={camera.place.shape}
            options={[
              { value: 'rounded', label: 'Rounded' },
              { value: 'circle', label: 'Circle' },
            ]}
            onChange={(shape) => place({ shape })}
          />
        </>
      )}
      <Reason path="camera" />
    </div>
  );
}

const standard = PRACTICE_RIG.camera as NonNullable<Rig['camera']>;
