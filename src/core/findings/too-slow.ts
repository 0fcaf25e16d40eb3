import { framesPerSecond, rateText } from '../base/rational';
import { CODEC_NAMES } from '../codec/codecs';
import { chooseCodec, pace } from '../encoding/encoder-speed';
import { planEncoding } from '../encoding/encoding-plan';
import { fitted } from '../layout/fit';
import type { Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import { type Facts, type Finder, sourceSize } from './finding';
import { rehearsalOf } from './rehearsed';

/** The encoder that the rig means was measured here and does not hold the frame rate that is asked. */
export const tooSlow: Finder = (rig, facts) => {
  // What the whole recorder has shown counts for more than an encoder alone.
  if (rehearsalOf(rig, facts)) return null;
  const held = heldBy(rig, facts);
  if (held === undefined || pace(held, rig.picture.frameRate) === 'keeps-up') return null;
  const asked = rateText(rig.picture.frameRate);
  const { codec } = chooseCodec(rig.picture, facts.speeds);
  const behind = held < framesPerSecond(rig.picture.frameRate);
  const fixed = fix(rig, facts);
  return {
    id: 'too-slow',
    weight: 'warn',
    sentence: behind
      ? `${CODEC_NAMES[codec]} is too slow here: it sustains ${Math.floor(held)} fps, the target is ${asked}.`
      : `${CODEC_NAMES[codec]} has little headroom here: it sustains ${Math.floor(held)} fps, the target is ${asked}.`,
    advice: fixed?.advice ?? 'Choose a smaller picture.',
    fix: fixed ? () => fixed.rig : undefined,
    about: 'screen',
  };
};

function heldBy(rig: Rig, facts: Facts): number | undefined {
  const source = sourceSize(facts);
  if (!source || rig.picture.source.from === 'none') return undefined;
  return planEncoding(rig.picture, fitted(rig.picture, source).size, facts).framesPerSecond;
}

/** A level is one of a codec's. */
const automatic = (rig: Rig): Rig => ({
  ...rig,
  picture: { ...rig.picture, codec: 'automatic', level: null },
});

/** The mildest change after which the encoder is fast enough. */
function fix(rig: Rig, facts: Facts): { rig: Rig; advice: string } | null {
  const tries: { rig: Rig; advice: string }[] = [];
  if (rig.picture.textHint === 'on')
    tries.push({
      rig: withValue(rig, 'picture.textHint', 'automatic'),
      advice: 'Set the text hint to automatic.',
    });
  if (rig.picture.codec !== 'automatic')
    tries.push({ rig: automatic(rig), advice: 'Set the codec to automatic.' });
  for (const num of [30, 15, 10])
    if (num < framesPerSecond(rig.picture.frameRate))
      tries.push({
        rig: withValue(automatic(rig), 'picture.frameRate', { num, den: 1 }),
        advice: `Record at ${num} fps.`,
      });
  return (
    tries.find((each) => {
      const held = heldBy(each.rig, facts);
      return held !== undefined && pace(held, each.rig.picture.frameRate) === 'keeps-up';
    }) ?? null
  );
}
