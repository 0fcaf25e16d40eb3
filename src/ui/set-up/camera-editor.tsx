'use client';

import { moveCamera, resizeCamera } from '@/core/camera-place';
import { placeCamera } from '@/core/layout';
import type { CameraPlace } from '@/core/rig';
import type { Size } from '@/core/sizes';
import { useOwnMirror } from '../lesson/own-mirror';
import { useDrawing } from './use-drawing';

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

  const { box, down, key, around } = useDrawing<'place' | 'width', CameraPlace>(
    picture.width,
    place,
    (grip, from, dx, dy) =>
      onChange(
        grip === 'width'
          ? resizeCamera(picture, from, widen * dx)
          : moveCamera(picture, camera, from, dx, dy),
      ),
    // Far enough to leave a corner.
    (grip, shift) => picture.width * (grip === 'place' ? (shift ? 0.1 : 0.035) : shift ? 0.05 : 0.01),
  );
  return (
    <div className="region-shade" {...around}>
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
        onPointerDown={(event) => {
          if (!props.onPick) return down('place')(event);
          const seen = event.currentTarget.getBoundingClientRect();
          const across = (event.clientX - seen.left) / seen.width;
          const x = (crop.x + (mirrored ? 1 - across : across) * crop.width) / camera.width;
          const y = (crop.y + ((event.clientY - seen.top) / seen.height) * crop.height) / camera.height;
          props.onPick({ x, y });
        }}
        onKeyDown={key('place')}
      >
        <i className="face-guide" aria-hidden="true" />
        <button
          type="button"
          className="handle-stone"
          aria-label="Camera, width"
          style={{ left: fromRight ? 0 : '100%', top: fromBottom ? 0 : '100%' }}
          onPointerDown={down('width')}
          onKeyDown={key('width')}
        />
      </div>
    </div>
  );
}
