import { clamp } from '../base/clamp';
import type { Size } from '../base/sizes';
import type { CameraPlace } from '../rig/rig';
import { placeCamera } from './layout';

const CORNERS = ['top-left', 'top-right', 'bottom-left', 'bottom-right'] as const;
/** So near a corner's place, as a share of the picture's width, it snaps to the corner. */
const SNAP = 0.03;
const [NARROWEST, WIDEST] = [0.05, 0.5];

/**
 * A camera that was moved by a distance in the picture's pixels.
 * @param snap whether it snaps to a corner that it comes near; otherwise only that corner’s exact position counts as the corner
 */
export function moveCamera(
  picture: Size,
  camera: Size,
  place: CameraPlace,
  dx: number,
  dy: number,
  snap: boolean,
): CameraPlace {
  const { at } = placeCamera(picture, camera, place);
  const x = clamp(at.x + dx, 0, picture.width - at.width);
  const y = clamp(at.y + dy, 0, picture.height - at.height);
  if (place.shape === 'tall') {
    const left = x + at.width / 2 < picture.width / 2;
    return { ...place, corner: left ? 'top-left' : 'top-right', free: null };
  }
  const [nearest] = CORNERS.map((corner) => {
    const own = placeCamera(picture, camera, { ...place, corner, free: null }).at;
    return { corner, away: Math.hypot(own.x - x, own.y - y) };
  }).sort((a, b) => a.away - b.away);
  if (nearest && nearest.away <= (snap ? SNAP * picture.width : 0))
    return { ...place, corner: nearest.corner, free: null };
  return { ...place, free: { x: x / picture.width, y: y / picture.height } };
}

/** A camera that was made wider or narrower by pixels of the picture; one in a corner stays in it. */
export function resizeCamera(picture: Size, place: CameraPlace, dx: number): CameraPlace {
  // Whole pixels, so that as many presses of a key come to as many of them.
  const share = Math.round(place.width * picture.width + dx) / picture.width;
  return { ...place, width: clamp(Number(share.toFixed(6)), NARROWEST, WIDEST) };
}
