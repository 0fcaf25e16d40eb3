'use client';

import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { moveCamera, resizeCamera } from '@/core/camera-place';
import { placeCamera } from '@/core/layout';
import type { CameraPlace } from '@/core/rig';
import type { Size } from '@/core/sizes';

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The camera on the live picture: moved and resized by drawing and by keys, with lines for the middle of the face. */
export function CameraEditor(props: {
  picture: Size;
  camera: Size;
  place: CameraPlace;
  onChange: (place: CameraPlace) => void;
}) {
  const { picture, camera, place, onChange } = props;
  const box = useRef<HTMLDivElement>(null);
  const drawn = useRef<{ x: number; y: number; from: CameraPlace; resize: boolean } | null>(null);
  const { at } = placeCamera(picture, camera, place);
  const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;
  // The edge that is free to move: the one away from the corner it stands in.
  const fromRight = !place.free && place.corner.endsWith('right');
  const fromBottom = !place.free && place.corner.startsWith('bottom');
  const widen = fromRight ? -1 : 1;

  const down = (resize: boolean) => (event: PointerEvent) => {
    event.preventDefault();
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    (event.currentTarget as HTMLElement).focus();
    drawn.current = { x: event.clientX, y: event.clientY, from: place, resize };
  };
  const move = (event: PointerEvent) => {
    const { current: start } = drawn;
    const outer = box.current?.parentElement?.getBoundingClientRect();
    if (!start || !outer) return;
    const scale = picture.width / outer.width;
    const [dx, dy] = [(event.clientX - start.x) * scale, (event.clientY - start.y) * scale];
    onChange(
      start.resize
        ? resizeCamera(picture, start.from, widen * dx)
        : moveCamera(picture, camera, start.from, dx, dy),
    );
  };
  const up = () => {
    drawn.current = null;
  };
  const key = (resize: boolean) => (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    // Far enough to leave a corner that it stands in.
    const by = picture.width * (event.shiftKey ? 0.1 : 0.035);
    onChange(
      resize
        ? resizeCamera(picture, place, widen * arrow[0] * picture.width * (event.shiftKey ? 0.05 : 0.01))
        : moveCamera(picture, camera, place, arrow[0] * by, arrow[1] * by),
    );
  };
  return (
    <div className="region-shade" onPointerMove={move} onPointerUp={up} onPointerCancel={up}>
      {/* biome-ignore lint/a11y/useSemanticElements: no element moves in two directions */}
      <div
        ref={box}
        className="camera-box"
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
        onPointerDown={down(false)}
        onKeyDown={key(false)}
      >
        <i className="face-guide" aria-hidden="true" />
        <button
          type="button"
          className="handle-stone"
          aria-label="Camera, width"
          style={{ left: fromRight ? 0 : '100%', top: fromBottom ? 0 : '100%' }}
          onPointerDown={down(true)}
          onKeyDown={key(true)}
        />
      </div>
    </div>
  );
}
