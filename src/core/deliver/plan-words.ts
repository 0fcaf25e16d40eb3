import { levelText } from '../base/figures';
import { sizeText } from '../base/sizes';
import { codecName } from '../codec/codecs';
import type { Destination } from '../destination/destination';
import type { RenderPlan } from './plan';
import { keyframeEveryS, madeCodec } from './quality';

/** What a plan does, in one sentence for people, and the exact terms beside it. */
export function planWords(plan: RenderPlan, destination: Destination): { sentence: string; exact: string } {
  const [file] = plan.files;
  const picture = file?.picture;
  const codec =
    plan.way.way === 'encode'
      ? `${codecName(madeCodec(destination))}, CRF ${plan.crf}, keyframes every ${keyframeEveryS(destination)} s`
      : `${codecName(plan.way.source.video.codec)} as recorded`;
  const rate = picture?.rate
    ? `${+(picture.rate.num / picture.rate.den).toFixed(2)} fps`
    : 'frames as recorded';
  const copied = file?.sound?.copied ? ', copied' : '';
  const loud = destination.sound.loudness ? `, ${levelText(destination.sound.loudness.lufs)} LUFS` : '';
  const channels = file?.sound?.encoding.channels === 1 ? 'mono' : 'stereo';
  return {
    sentence: plan.asItIs
      ? 'The plain video already is this file: it is handed over unchanged.'
      : plan.way.because,
    exact: `${codec}, ${picture ? sizeText(picture.shape.canvas) : ''}, ${rate}; ${destination.sound.codec.toUpperCase()} ${channels}${copied}${loud}`,
  };
}
