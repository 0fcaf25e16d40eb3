import { z } from 'zod';
import { LEAST_SAID_LUFS, lufsText } from '../audio/sound-heard';
import { dbText } from '../base/decibels';
import type { DeviceSource } from '../rig/rig';

/** What a test of a microphone found: five seconds of its sound, kept for each device. */
export const SoundTest = z.object({
  /** Name of the device as it stood in the list. */
  label: z.string(),
  at: z.iso.datetime(),
  /** Loudness of what was said, gated (ITU-R BS.1770-4); null for silence. */
  lufs: z.number().nullable(),
  peakDbtp: z.number().nullable(),
  /** The quietest moment, LUFS. */
  roomLufs: z.number().nullable(),
  clipped: z.int().min(0),
  hum: z.object({ hertz: z.union([z.literal(50), z.literal(60)]), levelDb: z.number() }).nullable(),
  /** Bytes of these seconds as they are kept. */
  keptBytes: z.int().min(0),
  /** How loud other microphones heard the same, the loudest first. */
  others: z.array(z.object({ source: z.unknown(), label: z.string(), lufs: z.number() })),
});
export type SoundTest = Omit<z.infer<typeof SoundTest>, 'others'> & {
  others: { source: DeviceSource; label: string; lufs: number }[];
};

export const SOUND_TEST_S = 5;

/** Another microphone that hears the voice so much louder is the one that stands before the speaker. */
const LOUDER_LU = 10;
const SPOKEN_LUFS = -50;

/** The microphone that probably is the right one; null when it is the one that was tested. */
export function louderMicrophone({ lufs, others }: SoundTest): SoundTest['others'][number] | null {
  const [loudest] = others;
  return loudest && loudest.lufs > SPOKEN_LUFS && loudest.lufs > (lufs ?? -70) + LOUDER_LU ? loudest : null;
}

/** What a test found, a short sentence each; the first says whether all is well. */
export function soundTestWords(test: SoundTest): string[] {
  const { lufs, peakDbtp, roomLufs, clipped, hum } = test;
  if (lufs === null || peakDbtp === null) return ['Nothing was heard.'];
  const verdict =
    clipped > 0
      ? 'It clips: turn the microphone down.'
      : peakDbtp > -2
        ? 'It is a little too loud.'
        : peakDbtp < -20
          ? 'It is quiet: go nearer, or turn it up.'
          : 'Good level.';
  return [
    verdict,
    `${dbText(lufs)} LUFS, peaks ${dbText(peakDbtp)} dBTP`,
    // What lies under the noise of 16 bits is no room but a sound without one.
    ...(roomLufs !== null && roomLufs < lufs - 6 && roomLufs >= LEAST_SAID_LUFS
      ? [`room noise ${lufsText(roomLufs)}`]
      : []),
    ...(hum ? [`hum of ${hum.hertz} Hz at ${dbText(hum.levelDb)} dB`] : []),
  ];
}
