import { isSoundOnly } from '@/core/rig/picture-source';
import { isRealTime, type Rig } from '@/core/rig/rig';
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
  const shape = {
    screen: [rig.picture.frameRate],
    camera: [rig.camera?.size, rig.camera?.frameRate],
    voice: [rig.voice?.channels],
    'app-sound': [],
  }[role];
  // The rig's surface is compared with the shared one; changing it does not end sharing.
  return JSON.stringify([source.from === 'screen' ? 'screen' : source, shape]);
}

/** What the encoding of a source depends on: a change needs a new connection to the recorder, and no new source. */
export const encodingKey = (rig: Rig, role: MediaRole): string =>
  JSON.stringify(
    {
      screen: { ...rig.picture, source: null },
      camera: { ...rig.camera, place: null },
      voice: { ...rig.sound, treated: rig.voice?.treated, treatment: rig.voice?.treatment },
      'app-sound': rig.sound,
    }[role],
  );
