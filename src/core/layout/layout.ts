import { nearestEven, type Rect, type Size } from '../base/sizes';
import type { ColourKey } from '../image/colour-key';
import type { CameraPlace } from '../rig/rig';
import type { Layout } from './layout-kinds';

/** What lies behind screen and camera: plain and dark, so that neither is outshone. */
export const GROUND = '#14211f';

/** Distance of the camera from the edges, as a share of the picture's width. */
const MARGIN = 0.0175;
/** Corner radius of a rounded camera, as a share of its shorter side. */
const ROUNDING = 0.1;

/** Where and how a camera is shown. */
export type CameraBox = {
  at: Rect;
  /** The part of the camera's own picture that is shown. */
  crop: Rect;
  /** Of the corners, in the picture's pixels. */
  radius: number;
  /** A line along the inside of its edge, in the picture's pixels. */
  border: { px: number; colour: string } | null;
  key: ColourKey | null;
};

/**
 * Where the camera lies over the picture. The same everywhere: preview, player and plain video.
 * @returns whole, even pixels inside the picture; `crop` is the part of the camera that is shown (its own pixels),
 *   `radius` the corner radius in picture pixels
 */
export function placeCamera(picture: Size, camera: Size, place: CameraPlace): CameraBox {
  const circle = place.shape === 'circle';
  const shape = circle ? 1 : camera.height / camera.width;
  const border = place.border && {
    px: Math.max(1, Math.round(picture.width * place.border.width)),
    colour: place.border.colour,
  };
  if (place.shape === 'tall') return { ...placeStrip(picture, camera, place), border, key: place.key };
  const margin = nearestEven(picture.width * MARGIN);
  // A flat picture may be too low for the width that was asked.
  const tallest = picture.height - 2 * margin;
  const width = nearestEven(Math.min(picture.width * place.width, tallest / shape));
  const height = circle ? width : nearestEven(width * shape);
  const side = Math.min(camera.width, camera.height);
  const crop = circle
    ? {
        x: nearestEven((camera.width - side) / 2),
        y: nearestEven((camera.height - side) / 2),
        width: side,
        height: side,
      }
    : { x: 0, y: 0, width: camera.width, height: camera.height };
  const left = place.corner.endsWith('left');
  const top = place.corner.startsWith('top');
  const inside = (share: number, whole: number, length: number) =>
    Math.min(nearestEven(share * whole), 2 * Math.floor((whole - length) / 2));
  const at = {
    x: place.free
      ? inside(place.free.x, picture.width, width)
      : left
        ? margin
        : picture.width - margin - width,
    y: place.free
      ? inside(place.free.y, picture.height, height)
      : top
        ? margin
        : picture.height - margin - height,
    width,
    height,
  };
  const rounding = place.shape === 'rounded' ? Math.round(Math.min(width, height) * ROUNDING) : 0;
  return { at, crop, radius: circle ? width / 2 : rounding, border, key: place.key };
}

/** A strip as high as the picture, at its left or right edge; the middle of the camera is shown in it. */
function placeStrip(picture: Size, camera: Size, place: CameraPlace) {
  const [width, height] = [nearestEven(picture.width * place.width), 2 * Math.floor(picture.height / 2)];
  const x = place.corner.endsWith('left') ? 0 : 2 * Math.floor((picture.width - width) / 2);
  const at = { x, y: 0, width, height };
  return { at, crop: cover(camera, at), radius: 0 };
}

/**
 * Where a source is drawn to be seen whole, centred in a box (letterbox or pillarbox).
 * @returns fractional pixels; round where whole ones are needed
 */
export function contain(source: Size, box: Size): Rect {
  const scale = Math.min(box.width / source.width, box.height / source.height);
  const [width, height] = [source.width * scale, source.height * scale];
  return { x: (box.width - width) / 2, y: (box.height - height) / 2, width, height };
}

/** The part of a source, centred, that has the shape of a box. Whole, even pixels. */
function cover(source: Size, box: Size): Rect {
  const scale = Math.min(source.width / box.width, source.height / box.height);
  const [width, height] = [nearestEven(box.width * scale), nearestEven(box.height * scale)];
  return {
    x: nearestEven((source.width - width) / 2),
    y: nearestEven((source.height - height) / 2),
    width,
    height,
  };
}

/** Share of the picture's width that the camera has beside the screen. */
const BESIDE = 0.25;

export type Arranged = {
  /** Where the screen is drawn; null when it is not seen. */
  screen: Rect | null;
  camera: CameraBox | null;
};

/**
 * Where screen and camera lie in a picture, by the layout of a step. The same in player and delivered file.
 * @param camera size of the camera's pictures, or null when there are none now: then the screen is shown alone
 */
export function arrange(picture: Size, screen: Size, camera: Size | null, layout: Layout): Arranged {
  const whole = (source: Size): Rect => {
    const { x, y, width, height } = contain(source, picture);
    return { x: nearestEven(x), y: nearestEven(y), width: nearestEven(width), height: nearestEven(height) };
  };
  if (!camera || layout.kind === 'screen') return { screen: whole(screen), camera: null };
  if (layout.kind === 'corner')
    return { screen: whole(screen), camera: placeCamera(picture, camera, layout.place) };
  if (layout.kind === 'camera')
    return {
      screen: null,
      camera: {
        at: whole(camera),
        crop: { x: 0, y: 0, width: camera.width, height: camera.height },
        radius: 0,
        border: null,
        key: layout.key,
      },
    };
  const margin = nearestEven(picture.width * MARGIN);
  const faceWidth = nearestEven(picture.width * BESIDE);
  const shown = contain(screen, {
    width: picture.width - 3 * margin - faceWidth,
    height: picture.height - 2 * margin,
  });
  const [width, height] = [nearestEven(shown.width), nearestEven(shown.height)];
  const y = nearestEven((picture.height - height) / 2);
  const left = layout.camera === 'left';
  const face = { x: left ? margin : picture.width - margin - faceWidth, y, width: faceWidth, height };
  return {
    screen: { x: left ? 2 * margin + faceWidth : margin, y, width, height },
    camera: {
      at: face,
      crop: cover(camera, face),
      radius: Math.round(Math.min(faceWidth, height) * ROUNDING * 0.6),
      border: null,
      key: layout.key,
    },
  };
}
