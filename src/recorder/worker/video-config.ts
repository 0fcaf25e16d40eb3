import { ProblemError } from '@/core/base/problem';
import { framesPerSecond } from '@/core/base/rational';
import { even, type Size } from '@/core/base/sizes';
import { withLevel } from '@/core/codec/avc-configuration';
import { codecString } from '@/core/codec/codec-string';
import { LEVELS } from '@/core/codec/levels';
import { textHintOf } from '@/core/encoding/encoding-plan';
import { automaticBitrateKbps, cameraBitrateKbps } from '@/core/encoding/rate';
import { type Fitted, fitted } from '@/core/layout/fit';
import type { Detail } from '@/core/recording/less-detail';
import type { MediaRole, VideoSettings } from '../messages';

export type ChosenVideo = {
  encoder: VideoEncoderConfig;
  /** The part of each frame that is encoded, and its place. */
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
export async function chooseVideo(
  role: MediaRole,
  source: Size,
  settings: VideoSettings,
): Promise<ChosenVideo> {
  const made = fitted(settings, source);
  const picture = made.size;
  const rate = settings.frameRate;
  const automatic =
    role === 'camera' ? cameraBitrateKbps(picture, rate) : automaticBitrateKbps(picture, rate);
  const bitrateKbps = settings.bitrateKbps ?? automatic;
  const hint =
    role === 'camera'
      ? { hint: false, reason: 'a camera picture is not text' }
      : textHintOf(settings, picture, settings.measuredHintMs);
  const encoder: VideoEncoderConfig = {
    codec: codecString(
      settings.codec,
      {
        size: picture,
        rate,
        bitrateKbps,
        profile: settings.profile === 'automatic' ? undefined : settings.profile,
      },
      settings.level,
    ),
    width: picture.width,
    height: picture.height,
    ...(settings.rateControl === 'quantizer' ? {} : { bitrate: bitrateKbps * 1000 }),
    bitrateMode: BITRATE_MODES[settings.rateControl],
    framerate: framesPerSecond(rate),
    // "realtime" lets the encoder leave frames out automatically; which frames are left out is decided in pacing.ts.
    latencyMode: 'quality',
    ...(HARDWARE[settings.hardware] ? { hardwareAcceleration: HARDWARE[settings.hardware] } : {}),
    ...(hint.hint ? { contentHint: 'text' } : {}),
    ...(settings.codec === 'h264' ? { avc: { format: 'avc' as const } } : {}),
  };
  if (!(await isSupported(encoder)))
    throw new ProblemError({
      code: 'no-encoder',
      message: `This browser cannot encode ${encoder.codec} at ${picture.width} × ${picture.height}.`,
      hint: 'Choose another codec or a smaller picture in Set up.',
      field: 'picture.codec',
    });
  const options =
    settings.rateControl === 'quantizer' ? { [settings.codec]: { quantizer: settings.quantizer } } : {};
  return {
    encoder: await layered(encoder),
    fitted: made,
    options,
    bitrateKbps,
    textHint: hint.hint,
    reason: hint.reason,
  };
}

const isSupported = async (encoder: VideoEncoderConfig): Promise<boolean> =>
  (await VideoEncoder.isConfigSupported(encoder).catch(() => null))?.supported ?? false;

/**
 * In two temporal layers where the encoder can: no picture needs those of the upper one, every second, so that the player decodes half as
 * many on its way to the one that is looked for (docs/figures.md, `play`).
 */
async function layered(encoder: VideoEncoderConfig): Promise<VideoEncoderConfig> {
  if (!encoder.codec.startsWith('avc1')) return encoder;
  const inLayers: VideoEncoderConfig = { ...encoder, scalabilityMode: 'L1T2' };
  if (!(await isSupported(inLayers))) return encoder;
  if (encoder.hardwareAcceleration === 'prefer-software') return inLayers;
  // A browser whose hardware knows no layers would take its software instead without a word.
  const [hardware, inLayersToo] = await Promise.all(
    [encoder, inLayers].map((one) => isSupported({ ...one, hardwareAcceleration: 'prefer-hardware' })),
  );
  return hardware && !inLayersToo ? encoder : inLayers;
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
  { codec, level }: VideoSettings,
): EncodedVideoChunkMetadata | undefined {
  const record = meta?.decoderConfig?.description;
  const chosen = LEVELS[codec].find(({ name }) => name === level);
  if (codec !== 'h264' || !chosen || !meta?.decoderConfig || !record) return meta;
  const bytes = ArrayBuffer.isView(record)
    ? new Uint8Array(record.buffer, record.byteOffset, record.byteLength)
    : new Uint8Array(record);
  return { ...meta, decoderConfig: { ...meta.decoderConfig, description: withLevel(bytes, chosen.code) } };
}

/** A settings with the detail that is left. */
export function lesser(settings: VideoSettings, source: Size, { hint, scale }: Detail): VideoSettings {
  if (hint && scale === 1) return settings;
  const { width, height } = fitted(settings, source).size;
  const box = scale === 1 ? settings.box : { width: even(width * scale), height: even(height * scale) };
  return { ...settings, box, textHint: hint ? settings.textHint : 'off' };
}
