import type { PictureSource, Rig } from './rig';

/** Whether a rig records sound and no picture at all. */
export const isSoundOnly = ({ picture }: Pick<Rig, 'picture'>): boolean => picture.source.from === 'none';

/** A rig with another picture source. Without one there is no camera either: nothing of a picture is recorded. */
export const withPictureSource = (rig: Rig, source: PictureSource): Rig => ({
  ...rig,
  picture: { ...rig.picture, source },
  camera: source.from === 'none' ? null : rig.camera,
});
