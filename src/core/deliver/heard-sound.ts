import { isTreated, type Treatment, UNTREATED } from '../audio/treatment';
import { TREATMENT_RATE } from '../audio/treatment-line';
import type { Rig } from '../rig/rig';
import type { PlainInput } from './plain-input';

export const SOUND_TRACKS = ['voice', 'app-sound'] as const;
export type SoundTrackKind = (typeof SOUND_TRACKS)[number];

/** Processing of a recorded sound for playback. The recording itself is not changed. */
export type SoundWork = { treatment: Treatment; delayMs: number };

/**
 * The sounds of a take that are processed for playback, and how.
 * @param own a treatment that was chosen for this take after it was recorded; null follows its rig
 */
export function soundWork(
  { voice, appSound }: Pick<Rig, 'voice' | 'appSound'>,
  own: Treatment | null,
): Partial<Record<SoundTrackKind, SoundWork>> {
  const afterwards = voice?.treated === 'afterwards' ? voice.treatment : UNTREATED;
  const works = {
    voice: { treatment: own ?? afterwards, delayMs: voice?.delayMs ?? 0 },
    'app-sound': { treatment: UNTREATED, delayMs: appSound?.delayMs ?? 0 },
  };
  return Object.fromEntries(
    Object.entries(works).filter(([, { treatment, delayMs }]) => isTreated(treatment) || delayMs !== 0),
  );
}

/**
 * A track's sound as it is heard, one file from the take's first instant to its last, in the place of its segments.
 * @param segments of the track
 * @param treatment a treated voice has one channel
 */
export function heardInput(
  track: SoundTrackKind,
  path: string,
  segments: readonly PlainInput[],
  durationUs: number,
  treatment: Treatment = UNTREATED,
): PlainInput {
  const given = segments.flatMap(({ track: of, configuration: c }) =>
    of === track && c.type === 'audio' ? [c.channels] : [],
  );
  return {
    track,
    path,
    startUs: 0,
    encoderDelayUs: 0,
    timesUs: [0, durationUs],
    configuration: {
      type: 'audio',
      codec: 'flac',
      sampleRate: TREATMENT_RATE,
      channels: isTreated(treatment) ? 1 : Math.max(1, ...given),
      bitrateKbps: 300,
    },
  };
}
