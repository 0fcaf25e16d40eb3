'use client';

import { OPUS_RATES, type SampleRate } from '@/core/codec/sample-rate';
import { fieldNames } from '@/core/rig/rig-choices';
import { withValue } from '@/core/rig/rig-values';
import { Pebbles } from '../../fields/choices';
import { RigNumber, RigSelect } from '../rig-field';
import { useSetUp } from '../set-up-context';

/** How both sounds are kept. */
export function SoundKept({ track }: { track: 'voiceKbps' | 'appKbps' }) {
  const { rig, changeRig } = useSetUp();
  const { codec, sampleRate } = rig.sound;
  const { name, does: effect } = fieldNames('sound');
  return (
    <>
      <Pebbles
        {...{ name, effect }}
        path="sound"
        value={codec}
        options={[
          { value: 'opus', label: 'Opus' },
          { value: 'pcm', label: 'PCM, 16 bit' },
          { value: 'pcm-24', label: 'PCM, 24 bit' },
        ]}
        onChange={(next) =>
          changeRig((old) =>
            withValue(old, 'sound', {
              ...old.sound,
              codec: next,
              sampleRate: next === 'opus' && sampleRate === 44_100 ? 48_000 : sampleRate,
            }),
          )
        }
        note={
          codec === 'pcm-24'
            ? 'Headroom for editing; a browser’s microphone delivers about 16 bit.'
            : undefined
        }
      />
      <RigSelect
        path="sound.sampleRate"
        options={[
          { value: null, label: 'Same as the device' },
          ...RATES.map(({ value, label }) => ({
            value,
            label,
            disabled: codec === 'opus' && !OPUS_RATES.includes(value),
          })),
        ]}
        note="For voice and app sound. Filtered first, so that there is no aliasing."
      />
      {codec === 'opus' && (
        <RigNumber
          path={`sound.${track}`}
          min={16}
          max={track === 'voiceKbps' ? 256 : 320}
          unit="kb/s"
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
