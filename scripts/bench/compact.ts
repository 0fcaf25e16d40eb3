// Bytes at equal text clarity: the encoders of compact parcels beside x264 with its defaults, on what a screen really shows.

import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { textClarity, videoClarity } from '@/core/clarity';
import { DESTINATIONS, type Destination } from '@/core/destination';
import { pictureEncoderArgs } from '@/core/render/encoder-args';
import { PRACTICE_RIG, type Rig } from '@/core/rig';
import { launch, withProfile } from '../../tests/support/browser';
import { rows } from '../../tests/support/processes';
import { bench, openLab, quick } from './bench';
import { runFfmpeg } from './commands';
import { recordTake } from './parcels';

const SIZE = { width: 1280, height: 720 };
const AREA = SIZE.width * SIZE.height;
const RATE = { num: 30, den: 1 };
/** Every so many frames are compared. */
const EVERY = 10;
/** Where all are compared: clearly above what anybody sees. */
const CLARITY = 0.998;

const course = DESTINATIONS.find(({ id }) => id === 'course-platform') as Destination;
const h264: Destination = { ...course, video: { ...course.video, codecs: ['h264'] } };

const ENCODERS: Record<string, { args: (crf: number) => string[]; crfs: number[] }> = {
  // What a plain `-c:v libx264` does, but for the quality, which is what is compared.
  defaults: { args: (crf) => ['-c:v', 'libx264', '-crf', String(crf)], crfs: [17, 22, 27] },
  h264: { args: (crf) => pictureEncoderArgs(h264, RATE, crf, SIZE), crfs: [17, 22, 27] },
  av1: { args: (crf) => pictureEncoderArgs(course, RATE, crf, SIZE), crfs: [26, 36, 46] },
};

const rigOf = (id: string, bitrateKbps: number | null): Rig => ({
  ...PRACTICE_RIG,
  picture: {
    ...PRACTICE_RIG.picture,
    source: { from: 'practice', id },
    box: SIZE,
    bitrateKbps,
    textHint: bitrateKbps ? 'off' : 'automatic',
  },
  camera: null,
});

bench(
  'compact',
  { most: { h264OverDefault: 0.8, h264Worst: 1, av1OverDefault: 0.4, h264OverBrowserRecorder: 0.3 } },
  ({ url, data }) =>
    withProfile(async (profile) => {
      const browser = await launch(profile);
      const page = await openLab(browser, url);
      const seconds = quick ? 5 : 15;
      const folder = mkdtempSync(join(tmpdir(), 'otter-compact-'));
      const ratios: { h264: number; av1: number; browser: number }[] = [];
      try {
        for (const id of ['desk', 'test-card']) {
          const fine = await recordTake(page, rigOf(id, 60_000), seconds);
          const usual = await recordTake(page, rigOf(id, null), seconds);
          const reference = join(folder, `${id}.y4m`);
          const recorded = join(data, 'media', 'takes', fine.take, 'recorded.mkv');
          const grid = ['-vf', `fps=${RATE.num}/${RATE.den}`, '-frames:v', String(seconds * RATE.num)];
          await runFfmpeg(['-y', '-i', recorded, '-map', '0:v:0', ...grid, '-pix_fmt', 'yuv420p', reference]);
          const bytes: Record<string, number> = {};
          for (const [name, { args, crfs }] of Object.entries(ENCODERS)) {
            const points: Point[] = [];
            for (const crf of crfs) {
              const path = join(folder, `${name}.mkv`);
              await runFfmpeg(['-y', '-i', reference, ...args(crf), path]);
              points.push({ bytes: statSync(path).size, clarity: await clarityOf(reference, path) });
            }
            bytes[name] = bytesAt(points, CLARITY);
          }
          const [live] = await rows<{ bytes: string }>(
            "select sum(s.bytes) as bytes from segment s join track t on t.id = s.track_id where t.take_id = $1 and t.kind = 'screen'",
            [usual.take],
          );
          const plain = bytes.defaults ?? Number.NaN;
          ratios.push({
            h264: (bytes.h264 ?? Number.NaN) / plain,
            av1: (bytes.av1 ?? Number.NaN) / plain,
            browser: (bytes.h264 ?? Number.NaN) / Number(live?.bytes),
          });
          rmSync(reference);
        }
      } finally {
        rmSync(folder, { recursive: true });
        await browser.close();
      }
      const of = (key: 'h264' | 'av1' | 'browser') => ratios.map((each) => each[key]);
      return {
        h264OverDefault: mean(of('h264')),
        h264Worst: Math.max(...of('h264')),
        av1OverDefault: mean(of('av1')),
        av1Worst: Math.max(...of('av1')),
        h264OverBrowserRecorder: mean(of('browser')),
      };
    }),
);

/** Ratios of different contents are averaged as ratios are. */
const mean = (values: readonly number[]): number =>
  Math.exp(values.reduce((sum, v) => sum + Math.log(v), 0) / values.length);

type Point = { bytes: number; clarity: number };

/** Bytes at a clarity: ln(bytes) is linear in ln(1 − clarity) between two measured points, and beyond them as between the nearest. */
function bytesAt(points: readonly Point[], clarity: number): number {
  const x = ({ clarity: c }: { clarity: number }) => Math.log(Math.max(1e-6, 1 - c));
  const sorted = [...points].sort((a, b) => x(a) - x(b));
  const wanted = x({ clarity });
  const at = Math.max(
    1,
    Math.min(
      sorted.length - 1,
      sorted.findIndex((point) => x(point) >= wanted),
    ),
  );
  const [a, b] = [sorted[at - 1], sorted[at]];
  if (!a || !b) return Number.NaN;
  const slope = (Math.log(b.bytes) - Math.log(a.bytes)) / (x(b) - x(a));
  return Math.exp(Math.log(a.bytes) + slope * (wanted - x(a)));
}

/** Some luma planes of a film. */
function planes(path: string): Promise<Uint8Array[]> {
  const filter = `select='not(mod(n,${EVERY}))',format=gray`;
  const args = ['-v', 'error', '-i', path, '-vf', filter, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-'];
  return new Promise((done, fail) => {
    const child = spawn('ffmpeg', args, { stdio: ['ignore', 'pipe', 'inherit'] });
    const parts: Buffer[] = [];
    child.stdout.on('data', (part) => parts.push(part));
    child.on('error', fail);
    child.on('close', () => {
      const all = Buffer.concat(parts);
      done(
        Array.from({ length: Math.floor(all.length / AREA) }, (_, n) =>
          all.subarray(n * AREA, (n + 1) * AREA),
        ),
      );
    });
  });
}

async function clarityOf(reference: string, path: string): Promise<number> {
  const [before, after] = [await planes(reference), await planes(path)];
  const each = before.map((data, n) =>
    textClarity({ ...SIZE, data }, { ...SIZE, data: after[n] ?? new Uint8Array(AREA) }),
  );
  return videoClarity(each)?.mean ?? 1;
}
