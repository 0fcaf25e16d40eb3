'use client';

import { Radio } from 'antd';
import { scaleLinear } from 'd3-scale';
import { framesPerSecond, rateText } from '@/core/base/rational';
import { CODEC_NAMES, VideoCodec } from '@/core/codec/codecs';
import { pace, speedOf } from '@/core/encoding/encoder-speed';
import { Reason } from '../../fields/reasons';
import { useSetUp } from '../set-up-context';

const PACES = { 'keeps-up': 'sustains', just: 'little headroom:', 'too-slow': 'too slow:' };

/** The frame rate that each encoder of this browser sustains here, beside the target. */
export function EncoderBars() {
  const { rig, changePicture, speeds, codec, hint } = useSetUp();
  const asked = framesPerSecond(rig.picture.frameRate);
  const most = Math.max(asked * 2.2, ...speeds.map((speed) => speed.framesPerSecond));
  const share = scaleLinear([0, most], [0, 100]).clamp(true);
  const chosen = rig.picture.codec;
  return (
    <>
      <Radio.Group
        className="options encoder-bars"
        aria-label="Codec"
        value={rig.picture.codec}
        onChange={({ target }) => changePicture({ codec: target.value, level: null })}
      >
        <Radio value="automatic" className={chosen === 'automatic' ? 'bar on' : 'bar'}>
          <b>Automatic</b>
          <span className="wide">
            {chosen === 'automatic'
              ? `${CODEC_NAMES[codec.codec]}: ${codec.reason}`
              : 'plays everywhere and is fast enough'}
          </span>
        </Radio>
        {VideoCodec.options.map((each) => {
          const speed = speedOf(speeds, each, hint.hint);
          const verdict = speed && pace(speed.framesPerSecond, rig.picture.frameRate);
          return (
            <Radio
              key={each}
              value={each}
              disabled={speeds.length > 0 && !speed && chosen !== each}
              className={chosen === each ? 'bar on' : 'bar'}
            >
              <b>{CODEC_NAMES[each]}</b>
              <svg viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden="true">
                <rect width="100" height="12" fill="var(--sunken)" />
                {speed && (
                  <rect
                    width={share(speed.framesPerSecond)}
                    height="12"
                    fill={verdict === 'keeps-up' ? 'var(--river)' : 'var(--amber)'}
                  />
                )}
                <line x1={share(asked)} x2={share(asked)} y2="12" stroke="var(--ink)" strokeWidth="0.6" />
              </svg>
              <span className={chosen === each ? 'fig' : ''}>
                {speed && verdict
                  ? `${PACES[verdict]} ${Math.floor(speed.framesPerSecond)} fps (target ${rateText(rig.picture.frameRate)})`
                  : speeds.length > 0
                    ? 'not in this browser'
                    : 'not measured yet'}
                {speed?.hardware && <span className="small mute"> in hardware</span>}
              </span>
            </Radio>
          );
        })}
      </Radio.Group>
      <Reason path="picture.codec" />
    </>
  );
}
