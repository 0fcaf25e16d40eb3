import type { Size } from '../base/sizes';
import type { VideoCodec } from '../codec/codecs';
import { LEVELS, type Level, largestPicture, levelAdvice, lowestLevel, mostKbps } from '../codec/levels';
import { chooseCodec } from '../encoding/encoder-speed';
import { trackRates } from '../encoding/rate';
import { fitted } from '../layout/fit';
import type { Rig } from '../rig/rig';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

/** A level that was chosen is too small for the stream, or no level of the codec is large enough. */
export const levelBroken: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  if (!source || rig.picture.source.from === 'none') return null;
  const { codec } = chooseCodec(rig.picture, facts.speeds);
  const stream = {
    size: fitted(rig.picture, source).size,
    rate: rig.picture.frameRate,
    bitrateKbps: trackRates(rig, source).screen,
    profile: rig.picture.profile === 'automatic' ? undefined : rig.picture.profile,
  };
  const named = LEVELS[codec].find(({ name }) => name === rig.picture.level);
  const lowest = lowestLevel(codec, stream);
  if (rig.picture.level !== null && !named)
    return {
      id: 'level-broken',
      weight: 'stop',
      sentence: `There is no level ${rig.picture.level} of this codec.`,
      advice: 'Use the lowest level that fits.',
      fix: (old) => withValue(old, 'picture.level', null),
      about: 'screen',
    };
  const level = named ?? lowest ?? LEVELS[codec].at(-1);
  const advice = level && levelAdvice(codec, level, stream);
  if (!level || !advice) return null;
  if (named && lowest)
    return {
      id: 'level-broken',
      weight: 'stop',
      sentence: advice.sentence,
      advice: `Use level ${lowest.name}, the lowest that fits.`,
      fix: (old) => withValue(old, 'picture.level', null),
      about: 'screen',
    };
  return {
    id: 'level-broken',
    weight: 'stop',
    sentence: advice.sentence,
    advice: advice.fix,
    fix: (old) => within(old, level, codec, stream.size),
    about: 'screen',
  };
};

/** The rig with everything brought under a level's ceilings. */
function within(rig: Rig, level: Level, codec: VideoCodec, size: Size): Rig {
  const picture = { ...rig.picture, level: null };
  if (picture.bitrateKbps !== null)
    picture.bitrateKbps = Math.min(picture.bitrateKbps, mostKbps(codec, level));
  const most = largestPicture(codec, level, size, picture.frameRate);
  if (most.width < size.width) picture.box = { width: most.width, height: most.height };
  return { ...rig, picture };
}
