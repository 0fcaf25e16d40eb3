import { isSoundOnly } from '@/core/rig/picture-source';
import { isRealTime, type Rig } from '@/core/rig/rig';
import { attachSettings } from './attach-settings';
import type { MediaRole } from './messages';

/** The source that a rig names for a role; undefined where it wants none. */
export const wantedSource = (rig: Rig, role: MediaRole) =>
  ({
    screen: rig.picture.source.from === 'none' ? undefined : rig.picture.source,
    // Rigs of before may name one beside a picture that is not there.
    camera: isSoundOnly(rig) ? undefined : rig.camera?.source,
    // At another speed than the work's there is no sound that fits.
    voice: isRealTime(rig.picture.speed) ? rig.voice?.source : undefined,
    'app-sound': isRealTime(rig.picture.speed) ? rig.appSound?.source : undefined,
  })[role];

/** What a source depends on, as one text: it is opened again only when that changes. How it is encoded is not part of it. */
export function sourceKey(rig: Rig, role: MediaRole): string {
  const source = wantedSource(rig, role);
  if (!source) return '';
  // What somebody shares is compared with what the rig means, and asked for another frame rate while it is shared: nobody picks it again.
  if (source.from === 'screen') return 'screen';
  const shape = {
    screen: [rig.picture.frameRate],
    camera: [rig.camera?.size, rig.camera?.frameRate],
    voice: [rig.voice?.channels],
    'app-sound': [],
  }[role];
  return JSON.stringify([source, shape]);
}

/** What the encoding of a source depends on: a change needs a new connection to the recorder, and no new source. */
export const encodingKey = (rig: Rig, role: MediaRole): string =>
  JSON.stringify(attachSettings(role, rig, {}));
