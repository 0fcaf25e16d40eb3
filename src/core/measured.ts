import { type Rig, RigDocument } from './rig';
import { sameValue } from './rig-values';

/** What the newest take of a lesson came to, and the rig it was made with. */
export type MeasuredTake = { title: string; rig: Rig; screenKbps: number; cameraKbps: number };

const WEIGHS = Object.keys(RigDocument.shape.picture.shape) as (keyof Rig['picture'])[];

/** Whether a take with one rig says what another one costs: everything that weighs on the bytes is the same. */
export function measuresTheSame(a: Rig, b: Rig): boolean {
  const camera = ({ camera }: Rig) =>
    camera && { source: camera.source, size: camera.size, rate: camera.frameRate };
  return WEIGHS.every((key) => sameValue(a.picture[key], b.picture[key])) && sameValue(camera(a), camera(b));
}
