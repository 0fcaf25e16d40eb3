import { CONTAINERS, formatRefusal, formatSource } from '../codec/formats';
import { chooseCodec } from '../encoding/encoder-speed';
import { withValue } from '../rig/rig-values';
import type { Finder, Finding } from './finding';

/** A file that is to be made of every take, and cannot hold what is recorded. */
export const containerRefuses: Finder = (rig, { speeds }) => {
  const source = formatSource(rig, chooseCodec(rig.picture, speeds).codec);
  return rig.formats.flatMap((format): Finding[] => {
    const refusal = formatRefusal(format, source);
    if (!refusal) return [];
    return [
      {
        id: 'container-refuses',
        weight: 'warn',
        sentence: `No ${CONTAINERS[format].name} will be made. ${refusal}`,
        advice: `Do not make ${CONTAINERS[format].name}.`,
        fix: (old) =>
          withValue(
            old,
            'formats',
            old.formats.filter((each) => each !== format),
          ),
        about: 'storage',
      },
    ];
  });
};
