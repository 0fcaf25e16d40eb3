'use client';

import { framesPerSecond } from '@/core/base/rational';
import { sameValue } from '@/core/base/same-value';
import { type Size, sizeText } from '@/core/base/sizes';
import { isSoundOnly } from '@/core/rig/picture-source';
import type { CameraPlace, Rig } from '@/core/rig/rig';
import { PRACTICE_RIG } from '@/core/rig/rig';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { CameraLook } from '../../fields/camera-look';
import { Choice, Pebbles } from '../../fields/choices';
import { Reason } from '../../fields/reasons';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { useOwnMirror } from '../../lesson/own-mirror';
import { deviceOptions, deviceSource, deviceValue, useDevices } from '../devices';
import { More } from '../more';
import { RigNumber, RigSelect } from '../rig-field';
import { usePicking } from '../set-up-context';
import { usePicture } from '../use-facts';

const CAMERA_SIZES: Size[] = [
  { width: 640, height: 360 },
  { width: 640, height: 480 },
  { width: 1280, height: 720 },
  { width: 1920, height: 1080 },
];
const CAMERA_RATES = [15, 24, 25, 30, 60];

const CORNERS: { value: CameraPlace['corner']; label: string }[] = [
  { value: 'top-left', label: 'Top left' },
  { value: 'top-right', label: 'Top right' },
  { value: 'bottom-left', label: 'Bottom left' },
  { value: 'bottom-right', label: 'Bottom right' },
];

type Camera = NonNullable<Rig['camera']>;

/** The camera and its place. */
export function CameraPanel() {
  const { rig, changeRig } = useRoom();
  const { cameras } = useDevices();
  const { camera } = rig;
  const change = (part: Partial<Camera>) =>
    changeRig((old) => ({ ...old, camera: { ...(old.camera ?? standard), ...part } }));
  if (isSoundOnly(rig))
    return (
      <p className="mute">Sound only: no camera is recorded. A camera needs a source for the picture.</p>
    );
  const practice = PRACTICE_DEVICES.camera.map(({ id, name }) => ({ value: `practice:${id}`, label: name }));
  return (
    <div className="grid">
      <Choice
        name="Device"
        value={camera ? deviceValue(camera.source) : 'none'}
        options={[
          { value: 'none', label: 'No camera' },
          { label: 'Practice', options: practice },
          { label: 'This computer', options: deviceOptions(camera?.source, cameras) },
        ]}
        onChange={(value) =>
          value === 'none'
            ? changeRig((old) => ({ ...old, camera: null }))
            : change({ source: deviceSource(value, cameras) })
        }
      />
      {camera && <PlaceChoices camera={camera} onChange={change} />}
      {camera && <PictureChoices camera={camera} />}
      <Reason path="camera" />
    </div>
  );
}

/** Where the camera lies, how large it is and how it looks. */
function PlaceChoices({ camera, onChange }: { camera: Camera; onChange: (part: Partial<Camera>) => void }) {
  const { session } = useRoom();
  const { keyMs } = useSourceStates(session).camera ?? {};
  const [picking, setPicking] = usePicking();
  const pictureWidth = usePicture()?.width ?? 1280;
  const place = (part: Partial<CameraPlace>) => onChange({ place: { ...camera.place, ...part } });
  return (
    <>
      <Choice
        name="Place"
        value={camera.place.free ? 'free' : camera.place.corner}
        options={[...CORNERS, ...(camera.place.free ? [{ value: 'free', label: 'Placed freely' }] : [])]}
        onChange={(value) =>
          value !== 'free' && place({ corner: value as CameraPlace['corner'], free: null })
        }
        note="Or drag it on the picture; it snaps to corners."
      />
      <RigNumber
        path="camera.place.width"
        per={100}
        min={5}
        max={50}
        unit={widthNote(camera, pictureWidth)}
      />
      <CameraLook
        place={camera.place}
        onChange={place}
        onPick={{ picking, begin: () => setPicking(!picking) }}
        keyNote={
          keyMs === undefined
            ? undefined
            : `The preview takes ${keyMs} ms/frame here. The recorded track keeps the background, so you can change this later.`
        }
      />
    </>
  );
}

/** Size and frame rate of the camera's own picture, and which way round it is shown. */
function PictureChoices({ camera }: { camera: Camera }) {
  const { session } = useRoom();
  const { most, size: given, givenFps } = useSourceStates(session).camera ?? {};
  const [mirrored, setMirrored] = useOwnMirror();
  const sizes = CAMERA_SIZES.filter(
    (size) =>
      sameValue(size, camera.size) || !most || (size.width <= most.width && size.height <= most.height),
  );
  const rates = CAMERA_RATES.filter(
    (fps) => !most || fps <= most.fps || fps === framesPerSecond(camera.frameRate),
  );
  return (
    <More paths={[]}>
      <RigSelect
        path="camera.size"
        options={sizes.map((size) => ({ value: size, label: sizeText(size) }))}
        note={given && givenFps ? `Measured: ${sizeText(given)}, ${givenFps} fps.` : undefined}
      />
      <RigSelect
        path="camera.frameRate"
        options={rates.map((fps) => ({
          value: { num: fps, den: 1 },
          label: fps < 30 ? `${fps}: lips look out of sync` : String(fps),
        }))}
      />
      <RigSelect
        path="camera.place.mirror"
        options={[
          { value: false, label: 'Not mirrored' },
          { value: true, label: 'Mirrored' },
        ]}
      />
      <Pebbles
        name="Preview"
        value={mirrored ? 'mirror' : 'file'}
        options={[
          { value: 'file', label: 'As recorded' },
          { value: 'mirror', label: 'Mirrored' },
        ]}
        onChange={(kind) => setMirrored(kind === 'mirror')}
      />
    </More>
  );
}

/** The camera needs no more pixels than it is shown with. */
function widthNote({ place, size }: NonNullable<Rig['camera']>, pictureWidth: number): string {
  const shown = Math.round(place.width * pictureWidth);
  return `%, ${shown} px${shown > size.width ? ` (recorded: ${size.width} px)` : ''}`;
}

const standard = PRACTICE_RIG.camera as NonNullable<Rig['camera']>;
