import { z } from 'zod';
import { type FrameRate, framesPerSecond, rateText } from '../base/rational';
import { CODEC_NAMES, VideoCodec } from '../codec/codecs';
import type { Rig } from '../rig/rig';
import { hasTimeForHint } from './rate';

/** What a second of practice content has shown of one encoder of this browser on this machine, at one size. */
export const EncoderSpeed = z.object({
  codec: VideoCodec,
  textHint: z.boolean(),
  /** Pictures per second it holds when it does nothing else. */
  framesPerSecond: z.number().positive(),
  /** What the probe's content came to. */
  kbps: z.number().min(0),
  /** `null` when the browser does not tell. */
  hardware: z.boolean().nullable(),
  /** Whether it takes a quantizer: constant quality. */
  quantizer: z.boolean(),
  /** Bytes at constant bitrate ÷ at average bitrate, on the same pictures; null when constant was refused. */
  constantOverAverage: z.number().nullable(),
});
export type EncoderSpeed = z.infer<typeof EncoderSpeed>;

/** So near to 1 that constant bitrate is average bitrate under another name. */
export const isSameControl = ({ constantOverAverage }: EncoderSpeed): boolean =>
  constantOverAverage !== null && Math.abs(constantOverAverage - 1) < 0.02;

/** Beside the encoder there are capture, camera, sound and the program that is shown: so many times the asked rate is fast enough. */
export const KEEPS_UP = 1.5;

export type Pace = 'keeps-up' | 'just' | 'too-slow';

/** Whether an encoder that holds so many frames per second is fast enough with a rate, with what the rest of the work needs beside it. */
export function pace(held: number, rate: FrameRate): Pace {
  const asked = framesPerSecond(rate);
  if (held >= asked * KEEPS_UP) return 'keeps-up';
  return held >= asked ? 'just' : 'too-slow';
}

export const speedOf = (
  speeds: readonly EncoderSpeed[],
  codec: VideoCodec,
  textHint: boolean,
): EncoderSpeed | undefined =>
  speeds.find((speed) => speed.codec === codec && speed.textHint === textHint) ??
  speeds.find((speed) => speed.codec === codec);

/** The speed at which a codec would be used: with the text hint where the rig takes it. */
function speedInUse(
  speeds: readonly EncoderSpeed[],
  codec: VideoCodec,
  { textHint, frameRate }: Pick<Rig['picture'], 'textHint' | 'frameRate'>,
): EncoderSpeed | undefined {
  const hinted = speedOf(speeds, codec, true);
  const wanted =
    textHint === 'on' ||
    (textHint === 'automatic' &&
      hinted !== undefined &&
      hasTimeForHint(1000 / hinted.framesPerSecond, frameRate));
  return speedOf(speeds, codec, wanted);
}

/**
 * The codec that a rig means here, and why. H.264 where it is fast enough: every player and editor opens it, and the plain video is made by
 * copying it. Otherwise the fastest of those that were measured.
 */
export function chooseCodec(
  picture: Pick<Rig['picture'], 'codec' | 'frameRate' | 'rateControl' | 'textHint'>,
  speeds: readonly EncoderSpeed[],
): { codec: VideoCodec; reason: string } {
  const { codec, frameRate, rateControl } = picture;
  if (codec !== 'automatic') return { codec, reason: 'as the rig says' };
  const asked = rateText(frameRate);
  // Constant quality needs an encoder that takes a quantizer.
  const able = VideoCodec.options
    .flatMap((each) => speedInUse(speeds, each, picture) ?? [])
    .filter(({ quantizer }) => rateControl !== 'quantizer' || quantizer);
  if (able.length === 0) {
    const usual = rateControl === 'quantizer' ? 'vp9' : 'h264';
    return { codec: usual, reason: `not measured here yet: ${CODEC_NAMES[usual]} is the usual choice` };
  }
  const fastest = able.reduce((most, speed) => (speed.framesPerSecond > most.framesPerSecond ? speed : most));
  const everywhere = able.find(
    (speed) => speed.codec === 'h264' && pace(speed.framesPerSecond, frameRate) === 'keeps-up',
  );
  const held = Math.floor((everywhere ?? fastest).framesPerSecond);
  if (everywhere)
    return {
      codec: 'h264',
      reason: `plays everywhere and is fast enough: sustains ${held} fps (target ${asked})`,
    };
  return { codec: fastest.codec, reason: `the fastest here: sustains ${held} fps (target ${asked})` };
}

/** What encodes where a codec's encoders fail here: the fastest of the others that were measured, or the usual one. */
export function otherCodec(codec: VideoCodec, speeds: readonly EncoderSpeed[]): VideoCodec {
  const others = speeds.filter((speed) => speed.codec !== codec);
  const [fastest] = others.sort((a, b) => b.framesPerSecond - a.framesPerSecond);
  return fastest?.codec ?? (codec === 'h264' ? 'vp9' : 'h264');
}
