'use client';

import { LEAST_SAID_LUFS, levelVerdict, lufsText, underVoice } from '@/core/audio/sound-heard';
import { isTreated } from '@/core/audio/treatment';
import { type AppSoundSource, type DeviceSource, firstAppSound, firstVoice, type Rig } from '@/core/rig/rig';
import { withValue } from '@/core/rig/rig-values';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { Choice } from '../../fields/choices';
import { TreatmentChoices } from '../../fields/treatment-choices';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { deviceOptions, deviceSource, deviceValue, useDevices } from '../devices';
import { More } from '../more';
import { RigNumber, RigSegmented } from '../rig-field';
import { SoundKept } from './sound-kept';
import { SoundTest } from './sound-test';

const practice = (ids: string[]) =>
  PRACTICE_DEVICES.sound
    .filter(({ id }) => ids.includes(id))
    .map(({ id, name }) => ({ value: `practice:${id}`, label: name }));

const appValue = (source: AppSoundSource) => (source.from === 'screen' ? 'screen' : deviceValue(source));

/** The same voice from another microphone. */
const heardFrom = (voice: Rig['voice'], source: DeviceSource) => ({
  ...(voice ?? firstVoice(source)),
  source,
});

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
          { label: 'Practice', options: practice(['voice', 'far-voice', 'beep']) },
          { label: 'This computer', options: deviceOptions(voice, microphones) },
        ]}
        onChange={(value) =>
          changeRig((old) => ({
            ...old,
            voice: value === 'none' ? null : heardFrom(old.voice, deviceSource(value, microphones)),
          }))
        }
        path="voice"
      />
      {rig.voice && (
        <RigSegmented
          path="voice.talk"
          options={[
            { value: 'open', label: 'Always on' },
            { value: 'push', label: 'Push to talk' },
          ]}
        />
      )}
      {rig.voice && <VoiceHeard />}
      <SoundTest />
      {rig.voice && <VoiceTreatment voice={rig.voice} />}
      <More paths={['sound']}>
        {rig.voice && <VoicePlaced voice={rig.voice} />}
        <SoundKept track="voiceKbps" />
      </More>
    </div>
  );
}

/** Voice processing, and when it is applied. */
function VoiceTreatment({ voice }: { voice: NonNullable<Rig['voice']> }) {
  const { changeRig } = useRoom();
  return (
    <>
      <div className="choice wide">
        <TreatmentChoices
          treatment={voice.treatment}
          onChange={(part) =>
            changeRig((old) => withValue(old, 'voice.treatment', { ...voice.treatment, ...part }))
          }
        />
      </div>
      {isTreated(voice.treatment) && (
        <RigSegmented
          path="voice.treated"
          options={[
            { value: 'afterwards', label: 'After recording' },
            { value: 'while-recording', label: 'While recording' },
          ]}
          note={
            voice.treated === 'afterwards'
              ? 'The raw voice is recorded; processing can be changed later.'
              : 'The processed voice is recorded; this cannot be undone.'
          }
        />
      )}
    </>
  );
}

/** Channels, gain and delay of the voice. */
function VoicePlaced({ voice }: { voice: NonNullable<Rig['voice']> }) {
  return (
    <>
      <RigSegmented
        path="voice.channels"
        options={[
          { value: 1, label: 'Mono' },
          { value: 2, label: 'Stereo' },
        ]}
        note={
          voice.channels === 1
            ? 'One microphone is mono.'
            : isTreated(voice.treatment)
              ? 'A processed voice is mono.'
              : undefined
        }
      />
      <RigNumber path="voice.gainDb" min={-60} max={12} unit="dB" />
      <RigNumber
        path="voice.delayMs"
        min={-500}
        max={500}
        unit="ms"
        note="For a microphone that is out of sync with the picture."
      />
    </>
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
  const about = [
    // While somebody speaks without a pause, the quietest is the voice itself.
    heard.quietLufs !== null &&
      heard.shortTermLufs !== null &&
      heard.quietLufs >= LEAST_SAID_LUFS &&
      heard.quietLufs < heard.shortTermLufs - 10 &&
      `Room noise ${lufsText(heard.quietLufs)}.`,
    under !== null &&
      `App sound ${Math.abs(Math.round(under))} LU ${under >= 0 ? 'below' : 'above'} the voice, with its gain.`,
  ].filter(Boolean);
  return (
    <div className="choice" role="status">
      <span className="lab">Input level</span>
      <p>{levelVerdict(heard)?.sentence ?? 'Say something.'}</p>
      <p className="small mute">{about.join(' ')}</p>
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
      return { ...old, appSound: { ...(old.appSound ?? firstAppSound(source)), source } };
    });
  return (
    <div className="grid">
      <Choice
        name="App sound"
        value={app ? appValue(app) : 'none'}
        options={[
          { value: 'none', label: 'No app sound' },
          { value: 'screen', label: 'Shared with the source' },
          { label: 'Practice', options: practice(['program-sound', 'beep', 'high-tone']) },
          {
            label: 'Loopback device',
            options: deviceOptions(app?.from === 'device' ? app : undefined, microphones),
          },
        ]}
        onChange={changeApp}
        path="appSound"
      />
      {rig.appSound && <RigNumber path="appSound.gainDb" min={-60} max={6} unit="dB" />}
      <More paths={['sound']}>
        {rig.appSound && <RigNumber path="appSound.delayMs" min={-500} max={500} unit="ms" />}
        <SoundKept track="appKbps" />
      </More>
    </div>
  );
}
