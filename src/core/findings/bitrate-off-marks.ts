import { bitrateText } from '../base/figures';
import { planEncoding } from '../encoding/encoding-plan';
import { fitted } from '../layout/fit';
import { withValue } from '../rig/rig-values';
import { type Finder, sourceSize } from './finding';

const rounded = (kbps: number) => Math.min(200_000, Math.max(100, Math.round(kbps / 50) * 50));

/** The bitrate lies outside of what was measured to make sense for what is being captured now. */
export const bitrateOffMarks: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  const { marks } = facts;
  if (!source || !marks || rig.picture.rateControl === 'quantizer') return null;
  const picture = fitted(rig.picture, source).size;
  const kbps = planEncoding(rig.picture, picture, facts).bitrateKbps;
  const { legibilityKbps, saturationKbps } = marks;
  if (legibilityKbps !== null && kbps < legibilityKbps) {
    const enough = rounded(legibilityKbps * 1.25);
    return {
      id: 'bitrate-off-marks',
      weight: 'warn',
      sentence: `Text breaks up at ${bitrateText(kbps * 1000)}: this source needs ${bitrateText(legibilityKbps * 1000)}.`,
      advice: `Set the bitrate to ${bitrateText(enough * 1000)}.`,
      fix: (old) => withValue(old, 'picture.bitrateKbps', enough),
      about: 'screen',
    };
  }
  // "Automatic" is a ceiling for busy moments: only what somebody asked for is spent in vain.
  if (saturationKbps !== null && rig.picture.bitrateKbps !== null && kbps > saturationKbps * 1.5) {
    const enough = rounded(saturationKbps);
    return {
      id: 'bitrate-off-marks',
      weight: 'note',
      sentence: `No visible gain above ${bitrateText(saturationKbps * 1000)} on this source; the bitrate is ${bitrateText(kbps * 1000)}.`,
      advice: `Lower the bitrate to ${bitrateText(enough * 1000)}.`,
      fix: (old) => withValue(old, 'picture.bitrateKbps', enough),
      about: 'screen',
    };
  }
  return null;
};
