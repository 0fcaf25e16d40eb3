import { sameValue } from '../base/same-value';
import { type Rig, RigDocument } from '../rig/rig';
import type { FlowFacts } from './flow';
import { type SoundRole, soundChannels } from './rate';

/** What a take or a rehearsal of a lesson came to, kb/s, and the rig it was made with. */
export type MeasuredTake = {
  /** ISO 8601 */
  startedAt: string;
  rig: Rig;
  kbps: { screen: number; camera: number; voice: number; appSound: number };
};

const WEIGHS = Object.keys(RigDocument.shape.picture.shape) as (keyof Rig['picture'])[];

/**
 * What a take says of another rig: of its picture when everything that weighs on its bytes is the same, and then of each sound that is
 * recorded the same way.
 */
export function measuredFor({ rig: of, kbps }: MeasuredTake, rig: Rig): FlowFacts['measured'] {
  const camera = ({ camera }: Rig) =>
    camera && { source: camera.source, size: camera.size, rate: camera.frameRate };
  const picture =
    WEIGHS.every((key) => sameValue(of.picture[key], rig.picture[key])) && sameValue(camera(of), camera(rig));
  if (!picture) return null;
  const sound = (role: SoundRole) =>
    sameValue(of.sound, rig.sound) &&
    sameValue(of[role]?.source, rig[role]?.source) &&
    soundChannels(of, role) === soundChannels(rig, role)
      ? kbps[role]
      : null;
  return { screen: kbps.screen, camera: kbps.camera, voice: sound('voice'), appSound: sound('appSound') };
}
