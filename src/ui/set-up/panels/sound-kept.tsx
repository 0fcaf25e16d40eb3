'use client';

import type { Rig } from '@/core/rig';
import { OPUS_RATES, type SampleRate } from '@/core/sample-rate';
import { useRoom } from '../../lesson/lesson-room';
import { Choice, NumberField, Pebbles } from '../choices';

/** How both sounds are kept. */
export function SoundKept({ track }: { track: 'voiceKbps' | 'appKbps' }) {
  const { rig, changeRig } = useRoom();
  const { codec, sampleRate } = rig.sound;
  const change = (part: Partial<Rig['sound']>) =>
    changeRig((old) => ({ ...old, sound: { ...old.sound, ...part } }));
  return (
    <>
      <Pebbles
        name="Audio format"
        value={codec}
        options={[
          { value: 'opus', label: 'Opus' },
          { value: 'pcm', label: 'PCM, 16 bit' },
          { value: 'pcm-24', label: 'PCM, 24 bit' },
        ]}
        onChange={(next) =>
          change({
            codec: next,
            sampleRate: next === 'opus' && sampleRate === 44_100 ? 48_000 : sampleRate,
          })
        }
        note={
          codec === 'pcm-24'
            ? 'Headroom for editing; a browser’s microphone delivers about 16 bit.'
            : undefined
        }
        path="sound"
      />
      <Choice
        name="Sample rate"
        value={String(sampleRate ?? 0)}
        options={[
          { value: '0', label: 'Same as the device' },
          ...RATES.map(({ value, label }) => ({
            value: String(value),
            label,
            disabled: codec === 'opus' && !OPUS_RATES.includes(value),
          })),
        ]}
        onChange={(value) =>
          change({ sampleRate: RATES.find((rate) => String(rate.value) === value)?.value ?? null })
        }
        note="For voice and app sound. Filtered first, so that there is no aliasing."
      />
      {codec === 'opus' && (
        <NumberField
          name="Bitrate"
          value={rig.sound[track]}
          min={16}
          max={track === 'voiceKbps' ? 256 : 320}
          unit="kb/s"
          onChange={(kbps) => change({ [track]: kbps })}
          note="Speech is clear from 48 kb/s; below 24 kb/s it sounds muffled."
        />
      )}
    </>
  );
}

const RATES: { value: SampleRate; label: string }[] = [
  { value: 48_000, label: '48 kHz, the standard for video' },
  { value: 44_100, label: '44.1 kHz' },
  { value: 24_000, label: '24 kHz' },
  { value: 16_000, label: '16 kHz, speech only' },
];
