import { withLevel } from '@/core/avc-level';
import { codecString } from '@/core/codec-string';
import { type Fitted, fitted } from '@/core/fit';
import type { Detail } from '@/core/less-detail';
import { LEVELS } from '@/core/levels';
import { ProblemError } from '@/core/problem';
import { automaticBitrateKbps, automaticTextHint, cameraBitrateKbps } from '@/core/rate';
import { framesPerSecond } from '@/core/rational';
import { even, type Size } from '@/core/sizes';
import type { MediaRole, VideoWish } from '../messages';

export type ChosenVideo = {
  encoder: VideoEncoderConfig;
  /** What of each picture goes into the encoder, and where it lies. */
  fitted: Fitted;
  /** Of every picture, besides whether it is a keyframe. */
  options: VideoEncoderEncodeOptions;
  bitrateKbps: number;
  textHint: boolean;
  reason: string;
};

/**
 * The encoder for a source of this size, as the rig wishes and this browser can.
 * @throws {ProblemError} `no-encoder` when this browser cannot encode it
 */
export async function chooseVideo(role: MediaRole, source: Size, wish: VideoWish): Promise<ChosenVideo> {
  const made = fitted(wish, source);
  const picture = made.size;
  const rate = wish.frameRate;
  const automatic =
    role === 'camera' ? cameraBitrateKbps(picture, rate) : automaticBitrateKbps(picture, rate);
  const bitrateKbps = wish.bitrateKbps ?? automatic;
  const hint =
    role === 'camera'
      ? { hint: false, reason: 'a camera picture is not text' }
      : wish.textHint === 'automatic'
        ? automaticTextHint(rate, picture, wish.measuredHintMs)
        : { hint: wish.textHint === 'on', reason: 'as the rig says' };
  const encoder: VideoEncoderConfig = {
    codec: codecString(
      wish.codec,
      { size: picture, rate, bitrateKbps, profile: wish.profile === 'automatic' ? undefined : wish.profile },
      wish.level,
    ),
    width: picture.width,
    height: picture.height,
    ...(wish.rateControl === 'quantizer' ? {} : { bitrate: bitrateKbps * 1000 }),
    bitrateMode: BITRATE_MODES[wish.rateControl],
    framerate: framesPerSecond(rate),
    // "realtime" lets the encoder leave frames out by itself; which frames are left out is decided in pacing.ts.
    latencyMode: 'quality',
    ...(HARDWARE[wish.hardware] ? { hardwareAcceleration: HARDWARE[wish.hardware] } : {}),
    ...(hint.hint ? { contentHint: 'text' } : {}),
    ...(wish.codec === 'h264' ? { avc: { format: 'avc' as const } } : {}),
  };
  const support = await VideoEncoder.isConfigSupported(encoder).catch(() => null);
  if (!support?.supported)
    throw new ProblemError({
      code: 'no-encoder',
      message: `This browser cannot encode ${encoder.codec} at ${picture.width} × ${picture.height}.`,
      hint: 'Choose another codec or a smaller picture in Set up.',
      field: 'picture.codec',
    });
  const options = wish.rateControl === 'quantizer' ? { [wish.codec]: { quantizer: wish.quantizer } } : {};
  return { encoder, fitted: made, options, bitrateKbps, textHint: hint.hint, reason: hint.reason };
}

const BITRATE_MODES = { average: 'variable', constant: 'constant', quantizer: 'quantizer' } as const;
const HARDWARE = {
  automatic: undefined,
  'prefer-hardware': 'prefer-hardware',
  'prefer-software': 'prefer-software',
} as const;

/** What the encoder says of its film, with the level that the rig has chosen: encoders write the lowest that they need. */
export function declared(
  meta: EncodedVideoChunkMetadata | undefined,
  { codec, level }: VideoWish,
): EncodedVideoChunkMetadata | undefined {
  const record = meta?.decoderConfig?.description;
  const chosen = LEVELS[codec].find(({ name }) => name === level);
  if (codec !== 'h264' || !chosen || !meta?.decoderConfig || !record) return meta;
  const bytes = ArrayBuffer.isView(record)
    ? new Uint8Array(record.buffer, record.byteOffset, record.byteLength)
    : new Uint8Array(record);
  return { ...meta, decoderConfig: { ...meta.decoderConfig, description: withLevel(bytes, chosen.code) } };
}

/** A wish with the detail that is left. */
export function lesser(wish: VideoWish, source: Size, { hint, scale }: Detail): VideoWish {
  if (hint && scale === 1) return wish;
  const { width, height } = fitted(wish, source).size;
  const box = scale === 1 ? wish.box : { width: even(width * scale), height: even(height * scale) };
  return { ...wish, box, textHint: hint ? wish.textHint : 'off' };
}
