'use client';

import { useEffect, useState } from 'react';
import { CODEC_NAMES, VideoCodec } from '@/core/codecs';
import { rateText } from '@/core/rational';
import type { PictureSource, Rig, Surface } from '@/core/rig';
import { KNOWN_SIZES, type Size, sizeText } from '@/core/sizes';
import { PRACTICE_DEVICES } from '@/practice/practice-desk';
import { chooseVideo } from '@/recorder/worker/video-config';
import { useRoom, useSourceStates } from '../lesson/lesson-room';
import { Choice, Pebbles } from './choices';

const SURFACES: { value: Surface; label: string }[] = [
  { value: 'display', label: 'A whole display' },
  { value: 'window', label: 'One window' },
  { value: 'tab', label: 'A browser tab' },
];

const RATES = [
  [10, 1],
  [15, 1],
  [20, 1],
  [24, 1],
  [25, 1],
  [30_000, 1001],
  [30, 1],
  [60, 1],
].map(([num = 30, den = 1]) => ({ num, den }));

const choiceOf = (source: PictureSource) =>
  source.from === 'practice' ? source.id : `screen:${source.meant}`;
const sourceOf = (value: string): PictureSource =>
  value.startsWith('screen:')
    ? { from: 'screen', meant: value.slice(7) as Surface }
    : { from: 'practice', id: value };

export function PictureChoices() {
  const { rig, changeRig, session } = useRoom();
  const states = useSourceStates(session);
  const { picture } = rig;
  const change = (part: Partial<Rig['picture']>) =>
    changeRig((old) => ({ ...old, picture: { ...old.picture, ...part } }));
  const codecs = useCodecs(states.screen?.size, picture);
  const changeSource = (value: string) => {
    const source = sourceOf(value);
    changeRig((old) => ({ ...old, picture: { ...old.picture, source } }));
  };
  const box = picture.box ? `${picture.box.width}x${picture.box.height}` : 'as-captured';
  const sizes = [
    { value: 'as-captured', label: 'As captured, one to one' },
    ...KNOWN_SIZES.map((size) => ({
      value: `${size.width}x${size.height}`,
      label: `${sizeText(size)} (${size.name})`,
    })),
  ];
  return (
    <fieldset>
      <legend>Picture</legend>
      <div className="grid">
        <Choice
          name="What is shown"
          value={choiceOf(picture.source)}
          onChange={changeSource}
          options={[
            {
              label: 'Practice',
              options: PRACTICE_DEVICES.picture.map(({ id, name }) => ({ value: id, label: name })),
            },
            {
              label: 'This computer',
              options: SURFACES.map(({ value, label }) => ({ value: `screen:${value}`, label })),
            },
          ]}
        />
        {picture.source.from === 'screen' && (
          <div className="choice">
            <span className="lab">In the browser’s own picker</span>
            <button type="button" className="act main" onClick={() => void session?.shareScreen()}>
              {states.screen?.state === 'open' ? 'Choose another' : 'Choose it now'}
            </button>
          </div>
        )}
        <Choice
          name="Picture size"
          value={box}
          options={sizes}
          onChange={(value) => {
            const [width = 0, height = 0] = value.split('x').map(Number);
            change({ box: width > 0 ? { width, height } : null });
          }}
        />
        <Choice
          name="Frames a second"
          value={`${picture.frameRate.num}/${picture.frameRate.den}`}
          options={RATES.map((rate) => ({ value: `${rate.num}/${rate.den}`, label: rateText(rate) }))}
          onChange={(value) => {
            const [num = 30, den = 1] = value.split('/').map(Number);
            change({ frameRate: { num, den } });
          }}
        />
        <Choice
          name="Encoder is told that it is text"
          value={picture.textHint}
          options={[
            { value: 'automatic', label: 'When there is time for it' },
            { value: 'on', label: 'Always: half the size, slower' },
            { value: 'off', label: 'Never: larger, faster' },
          ]}
          onChange={(value) => change({ textHint: value as Rig['picture']['textHint'] })}
        />
        <Pebbles
          name="Codec"
          value={picture.codec}
          options={codecs.map((codec) => ({ value: codec, label: CODEC_NAMES[codec] }))}
          onChange={(codec) => change({ codec })}
        />
      </div>
    </fieldset>
  );
}

/** The codecs that this browser says it can encode at this size; the chosen one always among them. */
function useCodecs(source: Size | undefined, picture: Rig['picture']): VideoCodec[] {
  const [codecs, setCodecs] = useState<VideoCodec[]>([picture.codec]);
  const { box, frameRate, bitrateKbps, textHint, keyframeEveryS } = picture;
  useEffect(() => {
    let stale = false;
    const size = source ?? { width: 1920, height: 1080 };
    const wish = { box, frameRate, bitrateKbps, textHint, keyframeEveryS };
    const able = VideoCodec.options.map((codec) =>
      chooseVideo('screen', size, { ...wish, codec }).then(
        () => codec,
        () => null,
      ),
    );
    void Promise.all(able).then((all) => {
      if (!stale) setCodecs(all.filter((codec) => codec !== null));
    });
    return () => {
      stale = true;
    };
  }, [source, box, frameRate, bitrateKbps, textHint, keyframeEveryS]);
  return codecs.includes(picture.codec) ? codecs : [picture.codec, ...codecs];
}
