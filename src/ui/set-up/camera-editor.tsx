'use client';

import type { PointerEvent } from 'react';
import type { Size } from '@/core/base/sizes';
import { moveCamera, resizeCamera } from '@/core/layout/camera-place';
import { placeCamera } from '@/core/layout/layout';
import type { CameraPlace } from '@/core/rig/rig';
import { useDrawing } from '../drawing/use-drawing';
import { useOwnMirror } from '../lesson/own-mirror';

/** The camera on the live picture: moved and resized by drawing and by keys, with lines for the middle of the face. */
export function CameraEditor(props: {
  picture: Size;
  camera: Size;
  place: CameraPlace;
  /** The next click picks a colour: told where it fell, as shares of the camera's own picture. */
  onPick?: (at: { x: number; y: number }) => void;
  onChange: (place: CameraPlace) => void;
}) {
  const { picture, camera, place, onChange } = props;
  const mirrored = place.mirror !== useOwnMirror()[0];
  const { at, crop } = placeCamera(picture, camera, place);
  const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;
  // The edge that is free to move: the one away from the corner.
  const fromRight = !place.free && place.corner.endsWith('right');
  const fromBottom = !place.free && place.corner.startsWith('bottom');
  const widen = fromRight ? -1 : 1;

  const { box, grip } = useDrawing<'place' | 'width', CameraPlace>(
    picture.width,
    place,
    (held, from, dx, dy, { scale }) =>
      onChange(
        held === 'width'
          ? resizeCamera(picture, from, widen * dx)
          : moveCamera(picture, camera, from, dx, dy, scale > 0),
      ),
  );
  const pick = (event: PointerEvent<HTMLElement>) => {
    const seen = event.currentTarget.getBoundingClientRect();
    const across = (event.clientX - seen.left) / seen.width;
    const x = (crop.x + (mirrored ? 1 - across : across) * crop.width) / camera.width;
    const y = (crop.y + ((event.clientY - seen.top) / seen.height) * crop.height) / camera.height;
    props.onPick?.({ x, y });
  };
  return (
    <div className="over region-shade">
      {/* biome-ignore lint/a11y/useSemanticElements: no element moves in two directions */}
      <div
        ref={box}
        className={props.onPick ? 'camera-box picks' : 'camera-box'}
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
        tabIndex={0}
        aria-label={`Camera, ${place.free ? 'placed freely' : place.corner.replace('-', ' ')}, ${Math.round(place.width * 100)} % wide. Arrow keys move it, with Shift further.`}
        style={{
          left: percent(at.x, picture.width),
          top: percent(at.y, picture.height),
          width: percent(at.width, picture.width),
          height: percent(at.height, picture.height),
        }}
        {...(props.onPick ? { onPointerDown: pick } : grip('place'))}
      >
        <i className="face-guide" aria-hidden="true" />
        <button
          type="button"
          className="handle-stone"
          aria-label="Camera, width"
          style={{ left: fromRight ? 0 : '100%', top: fromBottom ? 0 : '100%' }}
          {...grip('width')}
        />
      </div>
    </div>
  );
}
