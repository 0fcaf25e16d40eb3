'use client';

import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { isTreated, treatmentText, UNTREATED } from '@/core/audio/treatment';
import { bytesText } from '@/core/base/figures';
import { problemOf } from '@/core/base/problem';
import { SOUND_TEST_S, soundTestWords } from '@/core/recording/sound-test';
import { deviceKey, type KeptSounds, keptSounds } from '@/recorder/sound-test/kept-tests';
import { useRoom, useSourceStates } from '../../lesson/lesson-room';
import { useSoundPlay } from './use-sound-play';

/** Five seconds of the voice, played as they came and as they will be kept; the treatment can be heard on and off meanwhile. */
export function SoundTest() {
  const { session, rig } = useRoom();
  const state = useSourceStates(session).voice;
  const source = rig.voice?.source;
  const [listening, setListening] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const [sounds, setSounds] = useState<KeptSounds | null>(null);
  const { test } = state ?? {};
  // The sounds of the last test of this device are there again with it.
  const key = source && `${deviceKey(source)}:${test?.at}`;
  const asked = useRef<string | undefined>(undefined);
  useEffect(() => {
    if (!key || !source || !test || asked.current === key) return;
    asked.current = key;
    void keptSounds(source).then(setSounds);
  }, [key, source, test]);
  const treatment = rig.voice?.treatment ?? UNTREATED;
  const recordedTreated = rig.voice?.treated === 'while-recording';
  // What was kept in a treated form already is not treated once more.
  const { playing, play, stop } = useSoundPlay(recordedTreated ? UNTREATED : treatment);
  const run = async () => {
    if (!session) return;
    stop();
    setFailure(null);
    setListening(true);
    try {
      const { sounds: fresh } = await session.testVoice();
      setSounds(fresh);
    } catch (error) {
      const { message, hint } = problemOf(error);
      setFailure([message, hint].filter(Boolean).join(' '));
    } finally {
      setListening(false);
    }
  };
  if (!rig.voice) return null;
  return (
    <section className="choice wide sound-test" aria-label="Sound test">
      <span className="lab">Sound test</span>
      <div className="row">
        <Button disabled={listening || state?.state !== 'open'} onClick={() => void run()}>
          {listening ? 'Listening …' : test ? 'Test again' : `Speak for ${SOUND_TEST_S} s`}
        </Button>
        {listening && <span role="status">Speak as loudly as in the lesson.</span>}
        {!listening &&
          sounds &&
          test &&
          (['raw', 'kept'] as const).map((which) => (
            <Button
              key={which}
              color={playing === which ? 'primary' : 'default'}
              variant={playing === which ? 'filled' : 'outlined'}
              aria-pressed={playing === which}
              onClick={() => (playing === which ? stop() : void play(which, sounds[which], which === 'kept'))}
            >
              {which === 'raw' ? 'Play raw' : 'Play processed'}
            </Button>
          ))}
      </div>
      {failure && (
        <p role="alert" className="amber">
          {failure}
        </p>
      )}
      {!listening && test && (
        <p role="status">
          <b>{soundTestWords(test)[0]}</b>{' '}
          <span className="mute">
            “{test.label}”: {soundTestWords(test).slice(1).join(', ')}. Recorded size{' '}
            {bytesText((test.keptBytes * 60) / SOUND_TEST_S)}/min
            {isTreated(treatment) && `; played with ${treatmentText(treatment)}`}.
          </span>
        </p>
      )}
    </section>
  );
}
