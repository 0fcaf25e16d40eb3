import { bitrateText } from '../figures';
import { fitted } from '../fit';
import { automaticBitrateKbps } from '../rate';
import { withValue } from '../rig-choices';
import { type Finder, sourceSize } from './finding';

const rounded = (kbps: number) => Math.min(200_000, Math.max(100, Math.round(kbps / 50) * 50));

/** The bitrate lies outside of what was measured to make sense for what is being captured now. */
export const bitrateOffMarks: Finder = (rig, facts) => {
  const source = sourceSize(facts);
  const { marks } = facts;
  if (!source || !marks || rig.picture.rateControl === 'quantizer') return null;
  const picture = fitted(rig.picture, source).size;
  const kbps = rig.picture.bitrateKbps ?? automaticBitrateKbps(picture, rig.picture.frameRate);
  const { breaksUnderKbps, nothingOverKbps } = marks;
  if (breaksUnderKbps !== null && kbps < breaksUnderKbps) {
    const enough = rounded(breaksUnderKbps * 1.25);
    return {
      id: 'bitrate-off-marks',
      weight: 'warn',
      sentence: `Text breaks at ${bitrateText(kbps * 1000)}: on this picture it needs ${bitrateText(breaksUnderKbps * 1000)}.`,
      fix: `Allow ${bitrateText(enough * 1000)}.`,
      mend: (old) => withValue(old, 'picture.bitrateKbps', enough),
      about: 'screen',
    };
  }
  // "Automatic" is a ceiling for busy moments: only what somebody asked for is spent in vain.
  if (nothingOverKbps !== null && rig.picture.bitrateKbps !== null && kbps > nothingOverKbps * 1.5) {
    const enough = rounded(nothingOverKbps);
    return {
      id: 'bitrate-off-marks',
      weight: 'note',
      sentence: `Over ${bitrateText(nothingOverKbps * 1000)} nothing was gained on this picture; ${bitrateText(kbps * 1000)} are asked.`,
      fix: `Ask for ${bitrateText(enough * 1000)}.`,
      mend: (old) => withValue(old, 'picture.bitrateKbps', enough),
      about: 'screen',
    };
  }
  return null;
};
