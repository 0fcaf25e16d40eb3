import type { Size } from '@/core/base/sizes';
import { layOver, overlayOf } from '@/core/layout/compose-i420';
import { placeCamera } from '@/core/layout/layout';
import type { CameraPlace } from '@/core/rig/rig';
import { layoutI420 } from './scaling';

/**
 * Makes one picture of screen and camera, as `layout.ts` says. Typed arrays that are used again: a canvas takes ten times as long
 * where there is no graphics processor.
 * @returns what composes; the pictures that it is given stay their owner's
 */
export function openComposer(size: Size, camera: Size, place: CameraPlace) {
  const overlay = overlayOf(camera, placeCamera(size, camera, place), place.mirror);
  const memory = new Uint8Array((size.width * size.height * 3) / 2);
  const face = new Uint8Array((camera.width * camera.height * 3) / 2);
  return async (screen: VideoFrame, shown: VideoFrame, timestamp: number): Promise<VideoFrame> => {
    await Promise.all([
      screen.copyTo(memory, { layout: layoutI420(size) }),
      shown.copyTo(face, { layout: layoutI420(camera) }),
    ]);
    layOver(memory, size, face, camera, overlay);
    return new VideoFrame(memory, {
      format: 'I420',
      codedWidth: size.width,
      codedHeight: size.height,
      timestamp,
      colorSpace: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false },
    });
  };
}
