'use client';

import type { AppSoundSource } from '@/core/rig';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { useRoom } from '../lesson/lesson-room';
import { Choice, Pebbles } from './choices';
import { deviceOptions, deviceSource, deviceValue, useDevices } from './devices';

const practice = (ids: string[]) =>
  PRACTICE_DEVICES.sound
    .filter(({ id }) => ids.includes(id))
    .map(({ id, name }) => ({ value: `practice:${id}`, label: name }));

const appValue = (source: AppSoundSource) => (source.from === 'screen' ? 'screen' : deviceValue(source));

export function SoundChoices() {
  const { rig, changeRig } = useRoom();
  const { microphones } = useDevices();
  const voice = rig.voice?.source;
  const app = rig.appSound?.source;
  const changeApp = (value: string) =>
    changeRig((old) => {
      if (value === 'none') return { ...old, appSound: null };
      const source: AppSoundSource =
        value === 'screen' ? { from: 'screen' } : deviceSource(value, microphones);
      return { ...old, appSound: { gainDb: old.appSound?.gainDb ?? -12, source } };
    });
  return (
    <fieldset>
      <legend>Sound</legend>
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
              voice: value === 'none' ? null : { source: deviceSource(value, microphones) },
            }))
          }
        />
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
          note={
            app?.from === 'screen' && rig.picture.source.from === 'practice'
              ? 'A practice display shares no sound.'
              : undefined
          }
        />
        <Pebbles
          name="Sound is kept as"
          value={rig.sound.codec}
          options={[
            { value: 'opus', label: 'Opus' },
            { value: 'pcm', label: 'PCM, 16 bit' },
          ]}
          onChange={(codec) => changeRig((old) => ({ ...old, sound: { ...old.sound, codec } }))}
        />
        <Pebbles
          name="Countdown"
          value={String(rig.countdownS)}
          options={[
            { value: '0', label: 'Off' },
            { value: '3', label: '3 s' },
            { value: '5', label: '5 s' },
          ]}
          onChange={(seconds) => changeRig((old) => ({ ...old, countdownS: Number(seconds) }))}
        />
      </div>
    </fieldset>
  );
}
