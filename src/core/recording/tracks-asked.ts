import { isRealTime, type Rig } from '../rig/rig';
import type { TrackKind } from './take';

/**
 * The tracks that a take has when every source of its rig gives something. The sound of a shared screen is not among them: whether it
 * is shared is decided in the browser's picker. Other speeds than the real one record no sound.
 */
export function tracksAsked({ picture, camera, voice, appSound }: Rig): TrackKind[] {
  const sounds = isRealTime(picture.speed);
  const tracks: [TrackKind, boolean][] = [
    ['screen', picture.source.from !== 'none'],
    ['camera', camera !== null],
    ['voice', sounds && voice !== null],
    ['app-sound', sounds && appSound !== null && appSound.source.from !== 'screen'],
  ];
  return tracks.filter(([, isAsked]) => isAsked).map(([track]) => track);
}
