import { newSegmentId } from '@/core/base/ids';
import { afterFailure, type Replacement } from '@/core/recording/replacement';
import type { SoundSettings } from '../messages';
import { type EncodedSound, openEncodedSound, type SoundParts, type SoundShape } from './encoded-sound';
import type { Fault, Recovery } from './fault';
import type { Recording } from './recording';
import type { SourceClock } from './source-clock';

/** Writes a sound track as one encoded segment after the other: a new one only after a fault. */
export type SoundWriter = {
  /**
   * Whatever happens to encoders, these samples go to the next one that works; after the last has failed they are dropped.
   * @param atUs take time of the first one
   */
  readonly put: (recording: Recording, planes: Float32Array[], atUs: number, shape: SoundShape) => void;
  readonly bytes: () => number;
  readonly unwritten: () => number;
  readonly close: () => Promise<void>;
};

type Options = {
  role: 'voice' | 'app-sound';
  sound: SoundSettings;
  clock: SourceClock;
  nowUs: () => number;
  /** A fault was met: a new segment begins, or there will be none. */
  onRecovery: (recovery: Recovery) => void;
};

export function openSoundWriter(
  { role, sound, clock, nowUs, onRecovery }: Options,
  parts?: SoundParts,
): SoundWriter {
  let current: EncodedSound | null = null;
  let replacement: Replacement = 'same';
  let closedBytes = 0;
  const endings: Promise<void>[] = [];
  const failuresUs: number[] = [];

  const end = (ending: EncodedSound | null) => {
    if (!ending) return;
    endings.push(
      ending.end().then(() => {
        closedBytes += ending.bytes();
      }),
    );
  };

  const recover = (fault: Fault) => {
    failuresUs.push(nowUs());
    // What a device gives can always be kept as it is, which takes no encoder.
    replacement = afterFailure(failuresUs, sound.codec === 'opus');
    end(current);
    current = null;
    onRecovery({ fault, by: replacement });
  };

  const begin = (take: Recording, atUs: number, shape: SoundShape) => {
    const { offsetUs, how } = clock.offset();
    current = openEncodedSound(
      {
        head: {
          ...{ id: newSegmentId(), track: role, startUs: Math.round(atUs) },
          ...{ offsetUs, offsetHow: how, continues: false },
        },
        sound: replacement === 'other-codec' ? { ...sound, codec: 'pcm' } : sound,
        shape,
        files: take.files,
        nextIndex: () => take.nextIndex(role),
        onFault: recover,
      },
      parts,
    );
  };

  return {
    put: (recording, planes, atUs, shape) => {
      while (replacement !== 'end') {
        try {
          if (!current) begin(recording, atUs, shape);
        } catch (error) {
          recover({ part: 'encoder', error });
          continue;
        }
        if (current?.put(planes)) return;
      }
    },
    bytes: () => closedBytes + (current?.bytes() ?? 0),
    unwritten: () => current?.unwritten() ?? 0,
    close: async () => {
      end(current);
      current = null;
      await Promise.all(endings);
    },
  };
}
