// The smallest clear file: bytes at equal text clarity of compact parcels' encoders beside x264 with its defaults, on takes as the recorder
// makes them, five contents. Clarity is told against the pictures as they were drawn: against the take alone an encoder would be paid for
// keeping the live recorder's noise.

import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Rect, Size } from '@/core/base/sizes';
import { pictureEncoderArgs, sparesCameras } from '@/core/commands/encoder-args';
import { sparingFilter } from '@/core/commands/spare-camera';
import { DESTINATIONS, type Destination } from '@/core/destination/destination';
import { CLEAR } from '@/core/image/clarity';
import { launch, withProfile } from '../../tests/support/browser';
import { bench, openLab, quick } from './bench';
import { runFfmpeg } from './commands';
import {
  NATIVE,
  type Picture,
  picturesOf,
  RATE,
  type RecordedContent,
  recordContent,
  SCALED,
  WITH_CAMERA,
  withoutCamera,
} from './contents';
import { bytesAt, clarityOf, comparable, geometricMean, type Point, referenceOf } from './equal-clarity';

/** The distance of keyframes on both sides, and the one of long groups. */
const EVERY_S = 10;
const LONG_S = 30;
/** Clearly above what anybody sees, beside the take. */
const FAITHFUL = { mean: 0.998, worst: 0.98 };

const BELOW = { mean: 0.001, worst: 0.002 };

/** `--only=table,table-camera`: some of the contents alone. */
const only = process.argv
  .find((arg) => arg.startsWith('--only='))
  ?.slice('--only='.length)
  .split(',');

const course = DESTINATIONS.find(({ id }) => id === 'course-platform') as Destination;
const made = (codec: 'h264' | 'av1', keyframeEveryS: number): Destination => ({
  ...course,
  video: { ...course.video, codecs: [codec], keyframeEveryS },
});
/** As a render does: less is kept of a camera. */
const ours = (codec: 'h264' | 'av1', everyS: number) => (crf: number, size: Size, camera?: Rect) => {
  const destination = made(codec, everyS);
  const spared = sparesCameras(destination) ? camera : undefined;
  return [
    ...(spared ? ['-vf', sparingFilter(spared)] : []),
    ...pictureEncoderArgs(destination, RATE, crf, size, spared !== undefined),
    // As far apart on both sides, whatever people can seek in.
    ...['-g', String(everyS * RATE.num)],
  ];
};

const ENCODERS = {
  // What a plain `-c:v libx264` does, but for the quality, which is what is compared, and the keyframes, which are alike.
  plain: {
    args: (crf: number) => ['-c:v', 'libx264', '-crf', String(crf), '-g', String(EVERY_S * RATE.num)],
    crfs: [17, 22, 27, 31],
  },
  h264: { args: ours('h264', EVERY_S), crfs: [20, 26, 30, 34] },
  h264Long: { args: ours('h264', LONG_S), crfs: [26, 30, 34] },
  av1: { args: ours('av1', EVERY_S), crfs: [44, 50, 56, 62] },
  av1Long: { args: ours('av1', LONG_S), crfs: [44, 50, 56, 62] },
} as const;
type Encoder = keyof typeof ENCODERS;

/** Bytes at the gate beside the drawn pictures, and beside the take. */
type Bytes = { drawn: number; taken: number };

bench(
  'compact',
  {
    most: {
      ...{ h264OverDefault: 0.8, h264Worst: 1, av1OverDefault: 0.4 },
      ...{ h264LongOverDefault: 0.66, av1LongOverDefault: 0.36, h264OverBrowserRecorder: 0.3 },
    },
  },
  ({ url, data }) =>
    withProfile(async (profile) => {
      const browser = await launch(profile);
      const page = await openLab(browser, url);
      const seconds = quick ? 10 : 60;
      const folder = mkdtempSync(join(tmpdir(), 'otter-compact-'));
      const all: { content: RecordedContent; bytes: Record<Encoder, Bytes> }[] = [];
      try {
        for (const content of [...NATIVE, ...WITH_CAMERA, SCALED].filter(
          ({ name }) => only?.includes(name) ?? true,
        )) {
          const recorded = await recordContent(page, data, folder, content, seconds);
          all.push({ content: recorded, bytes: await encodeAll(recorded, folder) });
          rmSync(recorded.take);
        }
      } finally {
        rmSync(folder, { recursive: true });
        await browser.close();
      }
      const native = all.filter(({ content }) => content.box === null && !content.camera);
      const over = (name: Encoder, at: keyof Bytes, of = native) =>
        of.map(({ bytes }) => bytes[name][at] / bytes.plain[at]);
      const scaled = all.filter(({ content }) => content.box !== null);
      const camera = all.filter(({ content }) => content.camera);
      return {
        h264OverDefault: geometricMean(over('h264', 'drawn')),
        h264Worst: Math.max(...over('h264', 'drawn')),
        av1OverDefault: geometricMean(over('av1', 'drawn')),
        av1Worst: Math.max(...over('av1', 'drawn')),
        h264LongOverDefault: geometricMean(over('h264Long', 'drawn')),
        av1LongOverDefault: geometricMean(over('av1Long', 'drawn')),
        h264OverDefaultFaithful: geometricMean(over('h264', 'taken')),
        av1OverDefaultFaithful: geometricMean(over('av1', 'taken')),
        h264OverDefaultScaled: geometricMean(over('h264', 'taken', scaled)),
        av1OverDefaultScaled: geometricMean(over('av1', 'taken', scaled)),
        h264OverDefaultCamera: geometricMean(over('h264', 'drawn', camera)),
        av1OverDefaultCamera: geometricMean(over('av1', 'drawn', camera)),
        h264OverBrowserRecorder: geometricMean(
          native.map(({ content, bytes }) => bytes.h264.drawn / (content.liveBytesPerSecond * seconds)),
        ),
      };
    }),
);

async function encodeAll(content: RecordedContent, folder: string): Promise<Record<Encoder, Bytes>> {
  const { size, take } = content;
  const read = (pictures: Picture[]) => pictures.map((picture) => withoutCamera(picture, content.camera));
  const pristine = read(content.pristine);
  const taken = read(await picturesOf(take, size));
  const [drawn, own] = [referenceOf(pristine), referenceOf(taken)];
  const counted = comparable(drawn, taken);
  const every = taken.map(() => true);
  // No encoder makes a take clearer than it is: where the recorder already lost more than the gate allows, all are compared just below it.
  const live = pristine.length > 0 ? clarityOf(drawn, taken, counted).text : { mean: 1, worst: 1 };
  const gate = {
    mean: Math.min(CLEAR.mean, live.mean - BELOW.mean),
    worst: Math.min(CLEAR.worst, live.worst - BELOW.worst),
  };
  console.error(`${content.name}: take beside drawn ${live.mean.toFixed(4)}/${live.worst.toFixed(4)}`);
  const entries: [Encoder, Bytes][] = [];
  for (const [name, { args, crfs }] of Object.entries(ENCODERS) as [Encoder, (typeof ENCODERS)[Encoder]][]) {
    const points: Record<keyof Bytes, Point[]> = { drawn: [], taken: [] };
    for (const crf of crfs) {
      const path = join(folder, `${name}.mkv`);
      await runFfmpeg(['-y', '-i', take, ...args(crf, size, content.camera), path]);
      const shown = read(await picturesOf(path, size));
      const bytes = statSync(path).size;
      const beside = {
        drawn: clarityOf(pristine.length > 0 ? drawn : own, shown, pristine.length > 0 ? counted : every),
        taken: clarityOf(own, shown, every),
      };
      for (const at of ['drawn', 'taken'] as const) {
        const { mean, worst } = beside[at].text;
        points[at].push({ bytes, mean, worst });
      }
      const figures = ([text, colour]: [number, number]) => `${text.toFixed(4)}/${colour.toFixed(4)}`;
      console.error(
        `${content.name} ${name} CRF ${crf}: ${bytes} bytes; drawn ${figures([beside.drawn.text.mean, beside.drawn.text.worst])}, colour ${figures([beside.drawn.colour.mean, beside.drawn.colour.worst])}; take ${figures([beside.taken.text.mean, beside.taken.text.worst])}, colour ${figures([beside.taken.colour.mean, beside.taken.colour.worst])}`,
      );
    }
    entries.push([name, { drawn: bytesAt(points.drawn, gate), taken: bytesAt(points.taken, FAITHFUL) }]);
  }
  return Object.fromEntries(entries) as Record<Encoder, Bytes>;
}
