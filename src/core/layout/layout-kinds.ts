import { z } from 'zod';
import { ColourKey } from '../image/colour-key';
import { CameraPlace } from '../rig/rig';

/** A camera that is not an overlay: beside the screen, or instead of it. */
const OwnCamera = z.object({ mirror: z.boolean(), key: ColourKey.nullable() });

/** What of a take is seen. The same word means the same picture in the player and in every delivered file. */
export const Layout = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('screen') }),
  OwnCamera.extend({ kind: z.literal('camera') }),
  z.object({ kind: z.literal('corner'), place: CameraPlace }),
  OwnCamera.extend({ kind: z.literal('side-by-side'), camera: z.enum(['left', 'right']) }),
]);
export type Layout = z.infer<typeof Layout>;

export const LAYOUT_NAMES: Record<Layout['kind'], string> = {
  screen: 'Screen',
  corner: 'Camera in a corner',
  'side-by-side': 'Side by side',
  camera: 'Camera',
};
export const layoutName = ({ kind }: Layout): string => LAYOUT_NAMES[kind];

export const isMirrored = (layout: Layout): boolean =>
  layout.kind === 'corner' ? layout.place.mirror : layout.kind === 'screen' ? false : layout.mirror;

/** The chroma key of a layout's camera. */
export const colourKeyOf = (layout: Layout): ColourKey | null =>
  layout.kind === 'corner' ? layout.place.key : layout.kind === 'screen' ? null : layout.key;

/** Whether a layout shows the camera while there is one. */
export const showsCamera = ({ kind }: Layout): boolean => kind !== 'screen';

/** The layout that a rig records with: its camera over the screen, where it has one. */
export const layoutOf = (camera: { place: CameraPlace } | null): Layout =>
  camera ? { kind: 'corner', place: camera.place } : { kind: 'screen' };
