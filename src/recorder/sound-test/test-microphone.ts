import { SOUND_TEST_S, type SoundTest } from '@/core/recording/sound-test';
import { type DeviceSource, PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { PRACTICE_DEVICES, type PracticeDesk } from '@/practice/practice-desk';
import { soundSettings } from '../attach-settings';
import { type OpenSource, openPractice, openSoundDevice } from '../sources';
import type { KeptSounds } from './kept-tests';
import { listenTo } from './listen';

type Other = { source: DeviceSource; opened: OpenSource };
const PRACTICE_MICROPHONES: readonly string[] = ['voice', 'far-voice'];

/** Opens the microphones beside the chosen one that may be heard without asking anybody. One that cannot be opened is left out. */
export async function otherMicrophones(chosen: DeviceSource, desk: PracticeDesk): Promise<Other[]> {
  const open = async (source: DeviceSource): Promise<Other | null> => {
    try {
      const opened =
        source.from === 'practice'
          ? await openPractice(desk, 'voice', source.id, PRACTICE_RIG)
          : await openSoundDevice('voice', source, 1);
      return { source, opened };
    } catch {
      return null;
    }
  };
  // A practice voice speaks to practice microphones only.
  const sources: DeviceSource[] =
    chosen.from === 'practice'
      ? PRACTICE_DEVICES.sound
          .filter(({ id }) => PRACTICE_MICROPHONES.includes(id) && id !== chosen.id)
          .map(({ id }) => ({ from: 'practice', id }))
      : (await navigator.mediaDevices.enumerateDevices())
          .filter(
            ({ kind, label, deviceId }) => kind === 'audioinput' && label && deviceId !== 'communications',
          )
          // The browser's own choice stands in the list a second time, under the name of what it chose.
          .filter(({ deviceId, label }) => deviceId !== 'default' && label !== chosen.label)
          .map(({ deviceId, label }) => ({ from: 'device', id: deviceId, label }));
  return (await Promise.all(sources.map(open))).filter((other) => other !== null);
}

/**
 * Hears the chosen microphone, keeps it as a take would, and listens beside it to the others.
 * @param others opens them; they are closed again
 */
export async function testMicrophone(
  source: OpenSource,
  rig: Rig,
  others: () => Promise<Other[]>,
): Promise<{ test: SoundTest; sounds: KeptSounds }> {
  const opened = await others();
  try {
    const [heard, ...rest] = await Promise.all([
      listenTo(source.track, SOUND_TEST_S, soundSettings('voice', rig)),
      ...opened.map((other) => listenTo(other.opened.track, SOUND_TEST_S, null)),
    ]);
    const { measured, raw, kept } = heard;
    if (!kept) throw new Error('Nothing was kept.');
    const louder = opened
      .map((other, i) => ({
        source: other.source,
        label: other.opened.label,
        lufs: rest[i]?.measured.lufs ?? null,
      }))
      .flatMap(({ lufs, ...other }) => (lufs === null ? [] : [{ ...other, lufs }]))
      .sort((a, b) => b.lufs - a.lufs);
    return {
      test: {
        ...measured,
        label: source.label,
        at: new Date().toISOString(),
        keptBytes: Math.round(kept.bytes),
        others: louder,
      },
      sounds: { raw, kept },
    };
  } finally {
    for (const other of opened) other.opened.close();
  }
}
