import { z } from 'zod';
import { Problem } from '@/core/base/problem';
import { FrameRate } from '@/core/base/rational';
import { Size } from '@/core/base/sizes';
import { EncoderSpeed } from '@/core/encoding/encoder-speed';
import { VideoSettings } from '../messages';

export const ToProbe = z.discriminatedUnion('type', [
  /** How fast are this browser's encoders at this size? */
  z.object({ type: z.literal('speeds'), picture: Size, rate: FrameRate }),
  /** What do bitrates do to what comes through the port? */
  z.object({ type: z.literal('marks'), port: z.instanceof(MessagePort), settings: VideoSettings }),
]);
export type ToProbe = z.infer<typeof ToProbe>;

const Trial = z.object({ askedKbps: z.number(), gotKbps: z.number(), clarity: z.number() });
/** A small piece of a picture, red, green, blue and alpha. */
const Crop = z.object({ width: z.int(), height: z.int(), data: z.instanceof(Uint8ClampedArray) });

export const FromProbe = z.discriminatedUnion('type', [
  z.object({ type: z.literal('speeds'), speeds: z.array(EncoderSpeed) }),
  z.object({
    type: z.literal('marks'),
    trials: z.array(Trial),
    pictures: z.int(),
    /** Height of the text in the picture as it is encoded; null where no text was found. */
    textPx: z.number().nullable(),
    /** The same text of the last picture: as captured (null), then at each bitrate that was tried. */
    crops: z.array(z.object({ askedKbps: z.number().nullable(), crop: Crop })),
  }),
  z.object({ type: z.literal('problem'), problem: Problem }),
]);
export type FromProbe = z.infer<typeof FromProbe>;
export type Crop = z.infer<typeof Crop>;
