import { newBell } from '@/core/base/bell';
import type { SoundKind } from '@/core/recording/take';
import type { FromPlayer } from './messages';
import type { Target } from './seeking';
import { type DecodeSound, sendSounds } from './sounds-ahead';
import type { Stage } from './stage';

/** Decodes the sounds of a cut a little ahead of its clock and sends them to the page, which plays them. */
export type Sounding = {
  /** Sends the sound from a place on; what was sent from another place before ends. */
  readonly from: (place: Target) => void;
  /** The clock has been told again. */
  readonly clockTold: () => void;
  /** The one sound that is heard; null for all of them. */
  readonly setSolo: (kind: SoundKind | null) => void;
  readonly end: () => void;
};

/**
 * @param clock the playback position in whole µs of the cut, and its speed
 * @param failed gets what cannot be decoded
 */
export function openSounding(
  stage: Pick<Stage, 'cut' | 'soundsOf'>,
  decode: DecodeSound,
  clock: { nowUs: () => number; speed: () => number },
  tell: (message: FromPlayer, transfer: Transferable[]) => void,
  failed: (error: unknown) => void,
): Sounding {
  let solo: SoundKind | null = null;
  /** The page's count of the play whose sound is wanted. */
  let wanted: number | null = null;
  /** Rings with every report of the clock, and when other sounds are wanted. */
  const bell = newBell();

  return {
    from: ({ us, asked }) => {
      wanted = asked;
      bell.ring();
      void sendSounds(stage.cut(), stage.soundsOf, us, decode, {
        ...clock,
        solo,
        clockTold: bell.next,
        wanted: () => wanted === asked,
        hear: (place, { sampleRate, planes }, gainDb) =>
          tell(
            { type: 'sound', asked, us: place, sampleRate, planes, gainDb },
            planes.map(({ buffer }) => buffer),
          ),
      }).catch(failed);
    },
    clockTold: bell.ring,
    setSolo: (kind) => {
      solo = kind;
    },
    end: () => {
      wanted = null;
      bell.ring();
    },
  };
}
