import type { Rig } from './rig';
import { isTreated, type Treatment, UNTREATED } from './treatment/treatment';

export const SOUND_TRACKS = ['voice', 'app-sound'] as const;
export type SoundTrackKind = (typeof SOUND_TRACKS)[number];

/** What is done to a recorded sound before it is heard. What was recorded stays as it is. */
export type SoundWork = { treatment: Treatment; delayMs: number };

/**
 * The sounds of a take that are not heard as they were recorded, and what is done to each.
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
