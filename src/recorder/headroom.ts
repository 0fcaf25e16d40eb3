import { z } from 'zod';
import { createStore } from 'zustand/vanilla';
import type { Size } from '@/core/base/sizes';
import { VideoCodec } from '@/core/codec/codecs';
import { EncoderSpeed } from '@/core/encoding/encoder-speed';
import { type EncoderKnowledge, planEncoding } from '@/core/encoding/encoding-plan';
import type { FrameLedger } from '@/core/recording/take';
import type { Rig } from '@/core/rig/rig';
import type { Known } from './attach-settings';

/** What this browser on this machine was seen to need, kept from visit to visit until browser or machine are others. */
const KEY = 'otter.encoders';
const Measured = z.object({
  machine: z.string(),
  /** By the size of the picture. */
  speeds: z.record(z.string(), z.array(EncoderSpeed)),
  /** Time that nineteen of twenty pictures with the text hint took at most in a take, by codec and size. */
  hintMs: z.record(z.string(), z.number().positive()),
  /** Frames per second that an encoder sustained in a take with losses, by size, then by codec and hint: until it is measured again. */
  sustainedFps: z.record(z.string(), z.record(z.string(), z.number().positive())).default({}),
});
type Measured = z.infer<typeof Measured>;

const machine = () => `${navigator.userAgent} · ${navigator.hardwareConcurrency}`;
const sizeKey = ({ width, height }: Size) => `${width}x${height}`;
const encoderKey = (codec: VideoCodec, textHint: boolean) => `${codec} ${textHint ? 'hint' : 'plain'}`;
const hintKey = (codec: VideoCodec, size: Size) => `${codec} ${sizeKey(size)}`;

function read(): Measured {
  const nothing = { machine: machine(), speeds: {}, hintMs: {}, sustainedFps: {} };
  try {
    const kept = Measured.parse(JSON.parse(localStorage.getItem(KEY) ?? ''));
    return kept.machine === nothing.machine ? kept : nothing;
  } catch {
    return nothing;
  }
}

/** Changes whenever something new was measured; null before that. What is known is read where it is kept: other tabs measure, too. */
export const measurings = createStore<{ latest: Measured | null }>(() => ({ latest: null }));
function write(latest: Measured): void {
  localStorage.setItem(KEY, JSON.stringify(latest));
  measurings.setState({ latest });
}

/** The encoders' speeds at a picture size; none before the first probe. */
export function measuredSpeeds(picture: Size): EncoderSpeed[] {
  const { speeds, sustainedFps } = read();
  const seen = sustainedFps[sizeKey(picture)] ?? {};
  return (speeds[sizeKey(picture)] ?? []).map((speed) => {
    const most = seen[encoderKey(speed.codec, speed.textHint)] ?? Number.POSITIVE_INFINITY;
    return { ...speed, framesPerSecond: Math.min(speed.framesPerSecond, most) };
  });
}

export function rememberSpeeds(picture: Size, speeds: readonly EncoderSpeed[]): void {
  const kept = read();
  const { [sizeKey(picture)]: _, ...sustainedFps } = kept.sustainedFps;
  write({ ...kept, sustainedFps, speeds: { ...kept.speeds, [sizeKey(picture)]: [...speeds] } });
}

/** All that was measured at a size of picture. */
export function measuredAt(picture: Size): EncoderKnowledge {
  const { hintMs } = read();
  const seen = VideoCodec.options.flatMap((codec) => {
    const ms = hintMs[hintKey(codec, picture)];
    return ms === undefined ? [] : [[codec, ms] as const];
  });
  return { speeds: measuredSpeeds(picture), hintMs: Object.fromEntries(seen) };
}

/** What the recorder is told of the encoder for the picture that a rig makes. */
export function knownOf(rig: Rig, picture: Size): Known {
  const known = measuredAt(picture);
  return { speeds: known.speeds, hintMs: planEncoding(rig.picture, picture, known).hintMs };
}

/** Too few pictures say more about the moment than about the machine. */
const LEAST_PICTURES = 60;

/** Remembers what a take with the text hint has shown. */
export function rememberHint(codec: VideoCodec, picture: Size, pictures: number, p95Ms: number): void {
  if (pictures < LEAST_PICTURES) return;
  const kept = read();
  write({ ...kept, hintMs: { ...kept.hintMs, [hintKey(codec, picture)]: p95Ms } });
}

/** Remembers what an encoder sustained in a take for which it was too slow. */
export function rememberLoss(
  codec: VideoCodec,
  textHint: boolean,
  picture: Size,
  { askedFps, arrived, dropped }: Pick<FrameLedger, 'askedFps' | 'arrived' | 'dropped'>,
): void {
  if (arrived < LEAST_PICTURES) return;
  const kept = read();
  const fps = Math.max(1, askedFps * (1 - dropped / arrived));
  const atSize = { ...kept.sustainedFps[sizeKey(picture)], [encoderKey(codec, textHint)]: fps };
  write({ ...kept, sustainedFps: { ...kept.sustainedFps, [sizeKey(picture)]: atSize } });
}
