'use client';

import { Button, Flex } from 'antd';
import { CODEC_NAMES, VideoCodec } from '@/core/codec/codecs';
import { LEVELS, lowestLevel } from '@/core/codec/levels';
import { isSameControl, speedOf } from '@/core/encoding/encoder-speed';
import { isSoundOnly } from '@/core/rig/picture-source';
import { keyframeDistance } from '@/core/rig/rig';
import { fieldNames, type RigPath } from '@/core/rig/rig-choices';
import { NumberField } from '../../fields/choices';
import { More } from '../more';
import { RigNumber, RigSegmented, RigSelect } from '../rig-field';
import { useSetUp } from '../set-up-context';
import { usePicture } from '../use-facts';
import { BitrateSlider } from './bitrate-slider';
import { ColourDetail } from './colour-detail';
import { EncoderBars } from './encoder-bars';

/** Codec, rate control and everything else that the encoder is told, with what was measured of it here. */
export function EncodePanel() {
  const { rig, codec, hint, speeds } = useSetUp();
  if (isSoundOnly(rig)) return <p className="mute">Sound only: no picture is encoded.</p>;
  return (
    <>
      <EncoderBars />
      <Flex justify="space-between" align="center" gap={12}>
        <RateControl />
        {rig.picture.rateControl === 'quantizer' ? (
          <RigNumber path="picture.quantizer" min={0} max={63} unit="lower is clearer and larger" />
        ) : null}
      </Flex>
      {rig.picture.rateControl !== 'quantizer' && <BitrateSlider />}
      <div className="grid">
        <Keyframes />
      </div>
      <More paths={MORE}>
        <RigSelect
          path="picture.textHint"
          options={[
            { value: 'automatic', label: 'When there is time for it' },
            { value: 'on', label: 'Always' },
            { value: 'off', label: 'Never' },
          ]}
          note={hintNote(speeds, codec.codec, hint)}
        />
        <RigSelect
          path="picture.whenBehind"
          options={[
            { value: 'frames', label: 'Drop frames' },
            { value: 'detail', label: 'Lower quality' },
          ]}
        />
        <LevelChoice />
        {codec.codec === 'h264' && (
          <RigSelect
            path="picture.profile"
            options={[
              { value: 'automatic', label: 'Automatic: High' },
              { value: 'high', label: 'High' },
              { value: 'main', label: 'Main' },
              { value: 'constrained-baseline', label: 'Constrained Baseline' },
            ]}
          />
        )}
        <RigSelect
          path="picture.hardware"
          options={[
            { value: 'automatic', label: 'Automatic' },
            { value: 'prefer-hardware', label: 'Hardware first' },
            { value: 'prefer-software', label: 'Software first' },
          ]}
          note={
            speeds.length > 0 && speeds.every(({ hardware }) => hardware === false)
              ? 'No hardware encoder was found here: this changes nothing.'
              : undefined
          }
        />
        <ColourDetail />
      </More>
    </>
  );
}

const MORE: readonly RigPath[] = [
  'picture.textHint',
  'picture.whenBehind',
  'picture.level',
  'picture.profile',
  'picture.hardware',
];

function hintNote(
  speeds: ReturnType<typeof useSetUp>['speeds'],
  codec: VideoCodec,
  hint: { hint: boolean; reason: string },
): string {
  const now = `Currently ${hint.hint ? 'on' : 'off'}: ${hint.reason}.`;
  const [without, withHint] = [speedOf(speeds, codec, false), speedOf(speeds, codec, true)];
  if (!without || !withHint?.textHint || without.textHint) return now;
  const ms = (held: number) => (1000 / held).toFixed(0);
  const bytes = Math.round((withHint.kbps / without.kbps - 1) * 100);
  const size =
    Math.abs(bytes) < 2 ? 'the same size' : `${Math.abs(bytes)} % ${bytes < 0 ? 'smaller' : 'larger'}`;
  return `${now} Here ${ms(withHint.framesPerSecond)} ms/frame with the hint, ${ms(without.framesPerSecond)} without; ${size}.`;
}

function RateControl() {
  const { rig, codec, speeds } = useSetUp();
  const speed = speedOf(speeds, codec.codec, false);
  const anyQuantizer = VideoCodec.options.filter((each) => speedOf(speeds, each, false)?.quantizer);
  const same = speed && isSameControl(speed);
  const quantizer = rig.picture.codec === 'automatic' ? anyQuantizer.length > 0 : (speed?.quantizer ?? false);
  const notes = [
    same && 'Constant bitrate gave the same bytes as average here: it changes nothing.',
    speed &&
      !quantizer &&
      `Constant quality needs ${anyQuantizer.length > 0 ? anyQuantizer.map((each) => CODEC_NAMES[each]).join(' or ') : 'another codec'} in this browser.`,
  ].filter(Boolean);
  return (
    <RigSegmented
      path="picture.rateControl"
      options={[
        { value: 'average', label: 'Average bitrate' },
        {
          value: 'constant',
          label: 'Constant bitrate',
          disabled: same === true && rig.picture.rateControl !== 'constant',
        },
        { value: 'quantizer', label: 'Constant quality', disabled: speed !== undefined && !quantizer },
      ]}
      note={notes.join(' ') || undefined}
    />
  );
}

function Keyframes() {
  const { rig, changePicture } = useSetUp();
  const { name, does: effect } = fieldNames('picture.keyframeEvery');
  const { unit, value } = rig.picture.keyframeEvery;
  const { s, frames } = keyframeDistance(rig.picture);
  return (
    <NumberField
      {...{ name, effect }}
      value={value}
      min={unit === 'seconds' ? 0.1 : 1}
      max={unit === 'seconds' ? 20 : 1200}
      step={unit === 'seconds' ? 0.1 : 1}
      unit={
        <Button
          type="text"
          title={unit === 'seconds' ? 'Count in frames' : 'Count in seconds'}
          onClick={() =>
            changePicture({
              keyframeEvery:
                unit === 'seconds'
                  ? { unit: 'frames', value: frames }
                  : { unit: 'seconds', value: Math.max(0.1, Number(s.toFixed(1))) },
            })
          }
        >
          {unit === 'seconds' ? `s, ${frames} frames` : `frames, ${Number(s.toFixed(2))} s`}
        </Button>
      }
      onChange={(next) => changePicture({ keyframeEvery: { unit, value: next } })}
      path="picture.keyframeEvery"
    />
  );
}

function LevelChoice() {
  const { rig, codec, plan } = useSetUp();
  const picture = usePicture();
  const stream = picture && {
    size: picture,
    rate: rig.picture.frameRate,
    bitrateKbps: plan.bitrateKbps,
    profile: rig.picture.profile === 'automatic' ? undefined : rig.picture.profile,
  };
  const lowest = stream && lowestLevel(codec.codec, stream);
  return (
    <RigSelect
      path="picture.level"
      name={`${CODEC_NAMES[codec.codec]} level`}
      options={[
        { value: null, label: lowest ? `Automatic: ${lowest.name}` : 'Automatic' },
        ...LEVELS[codec.codec].map(({ name }) => ({ value: name, label: name })),
      ]}
    />
  );
}
