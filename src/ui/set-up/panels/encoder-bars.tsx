'use client';

import { useId } from 'react';
import { CODEC_NAMES, VideoCodec } from '@/core/codecs';
import { pace, speedOf } from '@/core/encoder-speed';
import { framesPerSecond, rateText } from '@/core/rational';
import { useSetUp } from '../set-up-context';

const PACES = { 'keeps-up': 'keeps up', just: 'little to spare', 'too-slow': 'too slow' };

/** What each encoder of this browser was measured to hold here, beside what is asked. */
export function EncoderBars() {
  const { rig, changePicture, speeds, codec, hint } = useSetUp();
  const name = useId();
  const asked = framesPerSecond(rig.picture.frameRate);
  const most = Math.max(asked * 2.2, ...speeds.map((speed) => speed.framesPerSecond));
  const share = (fps: number) => `${Math.min(100, (fps / most) * 100)}%`;
  const chosen = rig.picture.codec;
  return (
    <fieldset className="encoder-bars">
      <legend className="sr-only">Codec</legend>
      <label className={chosen === 'automatic' ? 'bar on' : 'bar'}>
        <input
          type="radio"
          name={name}
          className="sr-only"
          checked={chosen === 'automatic'}
          onChange={() => changePicture({ codec: 'automatic', level: null })}
        />
        <b>Automatic</b>
        <span className="wide">
          {chosen === 'automatic'
            ? `${CODEC_NAMES[codec.codec]}: ${codec.reason}`
            : 'what opens everywhere and keeps up'}
        </span>
      </label>
      {VideoCodec.options.map((each) => {
        const speed = speedOf(speeds, each, hint.hint);
        const verdict = speed && pace(speed.framesPerSecond, rig.picture.frameRate);
        return (
          <label key={each} className={chosen === each ? 'bar on' : 'bar'}>
            <input
              type="radio"
              name={name}
              className="sr-only"
              checked={chosen === each}
              onChange={() => changePicture({ codec: each, level: null })}
            />
            <b>{CODEC_NAMES[each]}</b>
            <span className="trough" aria-hidden="true">
              {speed && (
                <i
                  className={verdict === 'keeps-up' ? 'holds' : 'short'}
                  style={{ width: share(speed.framesPerSecond) }}
                />
              )}
              <u style={{ left: share(asked) }} />
            </span>
            <span className={chosen === each ? 'fig' : ''}>
              {speed && verdict
                ? `${PACES[verdict]}: ${Math.floor(speed.framesPerSecond)} a second of ${rateText(rig.picture.frameRate)}`
                : speeds.length > 0
                  ? 'not in this browser'
                  : 'not measured yet'}
              {speed?.hardware && <span className="small mute"> in hardware</span>}
            </span>
          </label>
        );
      })}
    </fieldset>
  );
}
