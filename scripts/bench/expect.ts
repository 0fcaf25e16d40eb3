// Whether the size that is told before a parcel is made holds: real sizes beside the range that three encoded seconds gave.

import { expectedBySample } from '@/core/deliver/expect';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import { sampleCut } from '@/server/delivery/sample';
import { launch, withProfile } from '../../tests/support/browser';
import { signal } from '../../tests/support/processes';
import { bench, openLab, quick } from './bench';
import { NATIVE, rigOf } from './contents';
import { makeHere, recordTake, wholeCut } from './parcels';

const of = (id: string, codec: 'h264' | 'av1'): Destination => {
  const found = DESTINATIONS.find((one) => one.id === id);
  if (!found) throw new Error(`There is no destination ${id}.`);
  return { ...found, video: { ...found.video, codecs: [codec] }, maxBytes: null };
};
const WANTED = [
  of('message-attachment', 'h264'),
  of('course-platform', 'h264'),
  of('course-platform', 'av1'),
];

const { voice, appSound } = PRACTICE_RIG;
/** Each content with sound, and a desk with camera and sound. */
const RIGS: Rig[] = [...NATIVE.map((content): Rig => ({ ...rigOf(content), voice, appSound })), PRACTICE_RIG];

bench('expect', { most: { widestRange: 1.6 }, least: { insideShare: 0.95 } }, ({ url }) =>
  withProfile(async (profile) => {
    const browser = await launch(profile);
    const page = await openLab(browser, url);
    const recorded = [];
    for (const rig of RIGS) recorded.push(await recordTake(page, rig, quick ? 10 : 60));
    await browser.close();
    signal('worker', 'SIGSTOP');
    const ratios: number[] = [];
    const ranges: number[] = [];
    let [inside, asTold] = [0, 0];
    try {
      const { readTakesOf } = await import('@/server/delivery/parcels');
      for (const [n, take] of recorded.entries())
        for (const destination of WANTED) {
          const cut = wholeCut(take);
          const takes = await readTakesOf(cut);
          const sampled = await sampleCut(cut, destination, takes, new AbortController().signal);
          if (!sampled) throw new Error('Nothing is encoded.');
          const rate = { num: 30, den: 1 };
          const { bytes, from, to } = expectedBySample(sampled, sampled, rate, null);
          const made = await makeHere(take, cut, destination);
          const real = made.facts.bytes;
          ratios.push(real / bytes);
          ranges.push(to / from);
          const isInside = real >= from && real <= to;
          if (isInside) inside++;
          // What was made finer because its text was not clear is another file than the one that was told of.
          if (isInside && made.facts.crf === sampled.crf) asTold++;
          console.error(
            `${n} ${destination.name} ${destination.video.codecs[0]}: told ${bytes} (${from} to ${to}), real ${real}, CRF ${made.facts.crf} (sampled at ${sampled.crf}, ${sampled.clear ? '' : 'not '}clear there), clarity ${made.facts.clarity?.mean}, worst ${made.facts.clarity?.worst}`,
          );
        }
    } finally {
      signal('worker', 'SIGCONT');
    }
    return {
      insideShare: inside / ratios.length,
      insideAtToldCrfShare: asTold / ratios.length,
      cases: ratios.length,
      leastRatio: Math.min(...ratios),
      mostRatio: Math.max(...ratios),
      widestRange: Math.max(...ranges),
    };
  }),
);
