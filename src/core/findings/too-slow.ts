import { CODEC_NAMES } from '../codecs';
import { chooseCodec, pace, speedOf } from '../encoder-speed';
import { fitted } from '../fit';
import { automaticTextHint } from '../rate';
import { framesPerSecond, rateText } from '../rational';
import type { Rig } from '../rig';
import { withValue } from '../rig-choices';
import { type Facts, type Finder, sourceSize } from './finding';

/** The encoder that the rig means was measured here and does not hold the frame rate that is asked. */
export const tooSlow: Finder = (rig, facts) => {
  const held = heldBy(rig, facts);
  if (held === undefined || pace(held, rig.picture.frameRate) === 'keeps-up') return null;
  const asked = rateText(rig.picture.frameRate);
  const { codec } = chooseCodec(rig.picture, facts.speeds);
  const behind = held < framesPerSecond(rig.picture.frameRate);
  const mended = mend(rig, facts);
  return {
    id: 'too-slow',
    weight: 'warn',
    sentence: behind
      ? `${CODEC_NAMES[codec]} is too slow here: ${Math.floor(held)} frames a second where ${asked} are asked.`
      : `${CODEC_NAMES[codec]} has little to spare here: ${Math.floor(held)} frames a second for the ${asked} that are asked.`,
    fix: mended?.fix ?? 'Choose a smaller picture.',
    mend: mended ? () => mended.rig : undefined,
    about: 'screen',
  };
};

function heldBy(rig: Rig, facts: Facts): number | undefined {
  const source = sourceSize(facts);
  if (!source || rig.picture.source.from === 'none') return undefined;
  const { codec } = chooseCodec(rig.picture, facts.speeds);
  const { textHint, frameRate } = rig.picture;
  const { size } = fitted(rig.picture, source);
  const slow = speedOf(facts.speeds, codec, true);
  const hint =
    textHint === 'automatic'
      ? automaticTextHint(frameRate, size, slow && 1000 / slow.framesPerSecond).hint
      : textHint === 'on';
  return speedOf(facts.speeds, codec, hint)?.framesPerSecond;
}

/** A level is one of a codec's. */
const automatic = (rig: Rig): Rig => ({
  ...rig,
  picture: { ...rig.picture, codec: 'automatic', level: null },
});

/** The mildest change after which the encoder keeps up. */
function mend(rig: Rig, facts: Facts): { rig: Rig; fix: string } | null {
  const tries: { rig: Rig; fix: string }[] = [];
  if (rig.picture.textHint === 'on')
    tries.push({
      rig: withValue(rig, 'picture.textHint', 'automatic'),
      fix: 'Take the text hint only when there is time for it.',
    });
  if (rig.picture.codec !== 'automatic')
    tries.push({ rig: automatic(rig), fix: 'Let the codec be chosen by what keeps up here.' });
  for (const num of [30, 15, 10])
    if (num < framesPerSecond(rig.picture.frameRate))
      tries.push({
        rig: withValue(automatic(rig), 'picture.frameRate', { num, den: 1 }),
        fix: `Record ${num} frames a second.`,
      });
  return (
    tries.find((each) => {
      const held = heldBy(each.rig, facts);
      return held !== undefined && pace(held, each.rig.picture.frameRate) === 'keeps-up';
    }) ?? null
  );
}
