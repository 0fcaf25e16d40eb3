import { z } from 'zod';
import type { VideoCodec } from '@/core/codecs';
import type { Size } from '@/core/sizes';

/** What this browser on this machine was seen to need for a picture with the text hint. Kept from take to take. */
const KEY = 'otter.text-hint-ms';
const Measured = z.record(z.string(), z.number().positive());

const keyOf = (codec: VideoCodec, { width, height }: Size) => `${codec} ${width}x${height}`;

function read(): z.infer<typeof Measured> {
  try {
    return Measured.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return {};
  }
}

/** Milliseconds that nineteen of twenty pictures took at most, or undefined when none was ever measured. */
export const measuredHintMs = (codec: VideoCodec, picture: Size): number | undefined =>
  read()[keyOf(codec, picture)];

/** Too few pictures say more about the moment than about the machine. */
const LEAST_PICTURES = 60;

/** Remembers what a take with the text hint has shown. */
export function rememberHint(codec: VideoCodec, picture: Size, pictures: number, p95Ms: number): void {
  if (pictures < LEAST_PICTURES) return;
  localStorage.setItem(KEY, JSON.stringify({ ...read(), [keyOf(codec, picture)]: p95Ms }));
}
