'use client';

import { type AppSoundSource, OPUS_RATES, type Rig, type SampleRate } from '@/core/rig';
import { gainAdvice, underVoice } from '@/core/sound-heard';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { Choice, NumberField, Pebbles } from '../choices';
import { deviceOptions, deviceSource, deviceValue, useDevices } from '../devices';

const practice = (ids: string[]) =>
  PRACTICE_DEVICES.sound
    .filter(({ id }) => ids.includes(id))
    .map(({ id, name }) => ({ value: `practice:${id}`, label: name }));

const appValue = (source: AppSoundSource) => (source.from === 'screen' ? 'screen' : deviceValue(source));

/** The teacher's voice. */
export function VoicePanel() {
  const { rig, changeRig } = useRoom();
  const { microphones } = useDevices();
  const voice = rig.voice?.source;
  return (
    <div className="grid">
      <Choice
        name="Voice"
        value={voice ? deviceValue(voice) : 'none'}
        options={[
          { value: 'none', label: 'No voice' },
          { label: 'Practice', options: practice(['voice', 'beep']) },
          { label: 'This computer', options: deviceOptions(voice, microphones) },
        ]}
        onChange={(value) =>
          changeRig((old) => ({
            ...old,
            voice:
              value === 'none'
                ? null
                : { talk: old.voice?.talk ?? 'open', source: deviceSource(value, microphones) },
          }))
        }
        path="voice"
      />
      {rig.voice && (
        <Pebbles
          name="The voice is heard"
          value={rig.voice.talk}
          options={[
            { value: 'open', label: 'All the time' },
            { value: 'push', label: `While ${rig.keys.mute.toUpperCase()} is held` },
          ]}
          onChange={(talk) => changeRig((old) => ({ ...old, voice: old.voice && { ...old.voice, talk } }))}
        />
      )}
      {rig.voice && <VoiceHeard />}
      <SoundKept track="voiceKbps" />
    </div>
  );
}

/** What was heard of the voice in the last moments, and what to do about it. */
function VoiceHeard() {
  const { session, rig } = useRoom();
  const states = useSourceStates(session);
  const heard = states.voice?.heard;
  if (!heard) return null;
  const app = states['app-sound']?.heard;
  const under = app && rig.appSound ? underVoice(heard, app, rig.appSound.gainDb) : null;
  const advice = gainAdvice(heard);
  return (
    <div className="choice" role="status">
      <span className="lab">What is heard</span>
      <p>
        {advice ??
          (heard.peakDbtp !== null && heard.peakDbtp > -50 ? 'The level is good.' : 'Say something.')}
      </p>
      <p className="small mute">
        {[
          heard.peakDbtp !== null && `peaks ${Math.round(heard.peakDbtp)} dB`,
          heard.shortTermLufs !== null && `${Math.round(heard.shortTermLufs)} LUFS now`,
          // While somebody speaks without a pause, the quietest is the voice itself.
          heard.quietLufs !== null &&
            heard.shortTermLufs !== null &&
            heard.quietLufs < heard.shortTermLufs - 10 &&
            `the room ${Math.round(heard.quietLufs)} dB`,
          under !== null && `app sound ${Math.round(under)} LU under it`,
        ]
          .filter(Boolean)
          .join(', ')
          .replaceAll('-', '−')}
      </p>
    </div>
  );
}

/** What programs sound like. */
export function AppSoundPanel() {
  const { rig, changeRig } = useRoom();
  const { microphones } = useDevices();
  const app = rig.appSound?.source;
  const changeApp = (value: string) =>
    changeRig((old) => {
      if (value === 'none') return { ...old, appSound: null };
      const source: AppSoundSource =
        value === 'screen' ? { from: 'screen' } : deviceSource(value, microphones);
      return { ...old, appSound: { gainDb: old.appSound?.gainDb ?? -12, source } };
    });
  return (
    <div className="grid">
      <Choice
        name="App sound"
        value={app ? appValue(app) : 'none'}
        options={[
          { value: 'none', label: 'No app sound' },
          { value: 'screen', label: 'Shared together with the picture' },
          { label: 'Practice', options: practice(['program-sound', 'beep']) },
          {
            label: 'A loopback device',
            options: deviceOptions(app?.from === 'device' ? app : undefined, microphones),
          },
        ]}
        onChange={changeApp}
        path="appSound"
      />
      {rig.appSound && (
        <NumberField
          name="Beside the voice"
          value={rig.appSound.gainDb}
          min={-60}
          max={6}
          unit="dB in the plain video"
          onChange={(gainDb) =>
            changeRig((old) => ({ ...old, appSound: old.appSound && { ...old.appSound, gainDb } }))
          }
        />
      )}
      <SoundKept track="appKbps" />
    </div>
  );
}

/** How both sounds are kept. */
function SoundKept({ track }: { track: 'voiceKbps' | 'appKbps' }) {
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
