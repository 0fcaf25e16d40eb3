import { framesPerSecond, frameTimeUs } from '../base/rational';
import { spansBetween } from '../cut/area';
import type { EncodedPart } from './picture-part';
import { keyframeFrames, madeCodec } from './quality';
import type { Shot } from './shot';
import { takeTimeOfFrame } from './timeline';

/** About so long: shorter ones are not worth the start of two more programs. */
const USUAL_S = 15;
/** So many that two which are at work at once end together, whatever is in them. */
const MOST = 16;

/**
 * A long part in stretches, an even number of them, two of which are encoded at once: what composes pictures is one thread of its process, and
 * leaves cores to the encoder of another. They meet where a keyframe would be due at the latest, so that this costs no more of them than
 * a change of scene would. SVT-AV1 fills every core on its own: its parts stay whole, as does a picture that is held.
 * @returns the part alone when it is too short
 */
export function inStretches(part: EncodedPart): EncodedPart[] {
  const { encoder, rate, frames, shot } = part;
  if (!('destination' in encoder) || madeCodec(encoder.destination) === 'av1' || shot.speed === 0)
    return [part];
  const every = keyframeFrames(encoder.destination, rate);
  const usual = every * Math.ceil((USUAL_S * framesPerSecond(rate)) / every);
  const count = Math.min(MOST, 2 * Math.round(frames / (2 * usual)));
  if (count === 0) return [part];
  const begins = Array.from({ length: count }, (_, n) => every * Math.round((n * frames) / count / every));
  return begins.map((first, n) => stretchOf(part, n, first, (begins[n + 1] ?? frames) - first));
}

/** Some frames of a part. What it goes over from is left behind by the first stretch: no transition is as long. */
function stretchOf(part: EncodedPart, n: number, first: number, frames: number): EncodedPart {
  const { rate, compared } = part;
  const before = Math.round((part.atUs * rate.num) / (rate.den * 1e6));
  return {
    ...part,
    name: `${part.name}.${n}`,
    atUs: frameTimeUs(before + first, rate),
    ...{ frames, durationUs: frameTimeUs(frames, rate) },
    shot: someOf(part.shot, first, frames),
    opening: first === 0 ? part.opening : null,
    compared: {
      ...compared,
      frames: compared.frames.filter((at) => at >= first && at < first + frames).map((at) => at - first),
    },
  };
}

/** Some frames of a shot. */
function someOf(shot: Shot, first: number, frames: number): Shot {
  const { rate, speed } = shot;
  const [fromUs, lengthUs] = [frameTimeUs(first, rate), frameTimeUs(frames, rate)];
  const originUs = takeTimeOfFrame(shot, first, rate);
  const endUs = originUs + lengthUs * speed;
  const screens = shot.screens.filter(({ startUs, endUs: until }) => startUs < endUs && until > originUs);
  return {
    ...shot,
    ...{ originUs, frames },
    // Before a first picture the first one stands.
    screens: screens.length > 0 ? screens : shot.screens.slice(0, 1),
    cameras: shot.cameras.filter(({ startUs, endUs: until }) => startUs < endUs && until > originUs),
    views: shot.views.map((view) => ({ ...view, atUs: view.atUs - fromUs })),
    covers: spansBetween(shot.covers, fromUs, fromUs + lengthUs),
  };
}
