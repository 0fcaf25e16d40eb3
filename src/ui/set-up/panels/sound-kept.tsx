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
        name="Sound is kept as"
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
            ? 'Room for what a later step may raise; a browser’s microphone has about 16 bits in it.'
            : undefined
        }
        path="sound"
      />
      <Choice
        name="Samples a second"
        value={String(sampleRate ?? 0)}
        options={[
          { value: '0', label: 'As the device gives them' },
          ...RATES.map(({ value, label }) => ({
            value: String(value),
            label,
            disabled: codec === 'opus' && !OPUS_RATES.includes(value),
          })),
        ]}
        onChange={(value) =>
          change({ sampleRate: RATES.find((rate) => String(rate.value) === value)?.value ?? null })
        }
        note="For both sounds. What a lower rate cannot carry is taken out first, so that nothing folds back."
      />
      {codec === 'opus' && (
        <NumberField
          name="Bitrate"
          value={rig.sound[track]}
          min={16}
          max={track === 'voiceKbps' ? 256 : 320}
          unit="kb/s"
          onChange={(kbps) => change({ [track]: kbps })}
          note="Speech is clear from 48 on; under 24 it sounds as if under water."
        />
      )}
    </>
  );
}

const RATES: { value: SampleRate; label: string }[] = [
  { value: 48_000, label: '48 kHz, the standard of video' },
  { value: 44_100, label: '44.1 kHz' },
  { value: 24_000, label: '24 kHz' },
  { value: 16_000, label: '16 kHz, speech only' },
];
