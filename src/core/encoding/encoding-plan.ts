import type { Size } from '../base/sizes';
import type { VideoCodec } from '../codec/codecs';
import type { Rig } from '../rig/rig';
import { chooseCodec, type EncoderSpeed, speedOf } from './encoder-speed';
import { automaticBitrateKbps, automaticTextHint, type HintChoice } from './rate';

type Picture = Rig['picture'];

/** What was measured on this machine for one size of picture. */
export type EncoderKnowledge = {
  speeds: readonly EncoderSpeed[];
  /** Time that nineteen of twenty frames with the text hint took at most in a take, ms, by codec. A take says more than a probe. */
  hintMs: Partial<Record<VideoCodec, number>>;
};
export const NOTHING_MEASURED: EncoderKnowledge = { speeds: [], hintMs: {} };

/** How a rig's picture is going to be encoded here, and why. */
export type EncodingPlan = {
  codec: VideoCodec;
  codecReason: string;
  hint: HintChoice;
  /** Time of a frame with the text hint, ms; undefined while nothing was measured. */
  hintMs: number | undefined;
  /** What the encoder is asked for, kb/s. */
  bitrateKbps: number;
  /** What "automatic" comes to, kb/s. */
  automaticKbps: number;
  /** Frames per second that the encoder sustains in this use; undefined while it was not measured. */
  framesPerSecond: number | undefined;
};

/** Whether the encoder is told that the picture is text: as the rig says, or by the time that it takes. */
export const textHintOf = (
  { textHint, frameRate }: Pick<Picture, 'textHint' | 'frameRate'>,
  size: Size,
  hintMs: number | undefined,
): HintChoice =>
  textHint === 'automatic'
    ? automaticTextHint(frameRate, size, hintMs)
    : { hint: textHint === 'on', reason: 'as the rig says' };

/**
 * The one plan of an encoding: the flow, the findings, the panels and the recorder ask it, so that none of them contradicts another.
 * @param size of the picture that is encoded
 */
export function planEncoding(
  picture: Pick<Picture, 'codec' | 'frameRate' | 'rateControl' | 'textHint' | 'bitrateKbps'>,
  size: Size,
  { speeds, hintMs: fromTakes }: EncoderKnowledge,
): EncodingPlan {
  const { codec, reason } = chooseCodec(picture, speeds);
  const probed = speedOf(speeds, codec, true);
  const hintMs = fromTakes[codec] ?? (probed?.textHint ? 1000 / probed.framesPerSecond : undefined);
  const hint = textHintOf(picture, size, hintMs);
  const automaticKbps = automaticBitrateKbps(size, picture.frameRate);
  return {
    codec,
    codecReason: reason,
    hint,
    hintMs,
    bitrateKbps: picture.bitrateKbps ?? automaticKbps,
    automaticKbps,
    framesPerSecond: speedOf(speeds, codec, hint.hint)?.framesPerSecond,
  };
}
