// What lessons show, recorded by the product's recorder, beside the drawn pictures: the two sides of “clear and compact”.

import { spawn } from 'node:child_process';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import type { LessonId } from '@/core/base/ids';
import { nearestEven, type Rect, type Size } from '@/core/base/sizes';
import type { Region } from '@/core/image/region';
import { fitted } from '@/core/layout/fit';
import { PRACTICE_RIG, type Rig } from '@/core/rig/rig';
import type { PictureKind } from '@/practice/messages';
import { rows } from '../../tests/support/processes';
import type { Lab } from './bench';
import { runFfmpeg } from './commands';

export const RATE = { num: 30, den: 1 };
/** Every so many frames are compared: prime, so that no rhythm of a script hides between. */
export const EVERY = 11;

/** A picture in I420. */
export type Picture = Size & { data: Uint8Array };

export type Content = {
  name: string;
  source: PictureKind;
  /** Size that the device delivers. */
  given: Size;
  aim: Region | 'whole';
  /** Scaled down before it is encoded; null is one to one. */
  box: Size | null;
  /** Where a noisy camera lies over it. */
  camera?: Rect;
};

const HD = { width: 1920, height: 1080 };
const SMALLER = { width: 1280, height: 720 };
/** Five kinds of content, one to one. */
export const NATIVE: readonly Content[] = [
  { name: 'table', source: 'desk', given: HD, aim: { x: 160, y: 270, ...SMALLER }, box: null },
  { name: 'drawing', source: 'window-planner', given: { width: 960, height: 640 }, aim: 'whole', box: null },
  { name: 'chart', source: 'window-log', given: { width: 1160, height: 720 }, aim: 'whole', box: null },
  { name: 'labels', source: 'window-labels', given: { width: 520, height: 480 }, aim: 'whole', box: null },
  { name: 'slides', source: 'slides', given: SMALLER, aim: 'whole', box: null },
];
/** A content with a camera in its corner, which has noise as a room in the evening has. */
function withCamera(content: Content): Content {
  const shown = content.aim === 'whole' ? content.given : content.aim;
  const width = nearestEven(shown.width * CAMERA_SHARE);
  const height = nearestEven((width * 9) / 16);
  const [x, y] = [shown.width - width - CAMERA_MARGIN, shown.height - height - CAMERA_MARGIN];
  return { ...content, name: `${content.name}-camera`, camera: { x, y, width, height } };
}
/** The camera's width as a share of the picture's, and how far it keeps from the edges. */
const [CAMERA_SHARE, CAMERA_MARGIN] = [3 / 16, 24];
export const WITH_CAMERA: readonly Content[] = NATIVE.map(withCamera);
/** Temporal noise of the camera, as ffmpeg’s filter `noise` counts it. */
const CAMERA_NOISE = 12;
/** The same display made smaller before it is encoded. */
export const SCALED: Content = { name: 'scaled', source: 'desk', given: HD, aim: 'whole', box: SMALLER };

export type RecordedContent = Content & {
  size: Size;
  /** The take on an even grid that begins with the script, uncompressed. */
  take: string;
  frames: number;
  /** Every `EVERY`th drawn picture; empty where the take is scaled, which no drawing is. */
  pristine: Picture[];
  /** Bytes of the live recorder's picture track for a second. */
  liveBytesPerSecond: number;
};

export const rigOf = ({ source, aim, box, camera }: Content): Rig => ({
  ...PRACTICE_RIG,
  picture: { ...PRACTICE_RIG.picture, source: { from: 'practice', id: source }, aim, box },
  camera: camera ? PRACTICE_RIG.camera : null,
  voice: null,
  appSound: null,
});

/** Records a content with the default rig's encoder and draws what it should have shown. */
export async function recordContent(
  page: Page,
  data: string,
  folder: string,
  content: Content,
  seconds: number,
): Promise<RecordedContent> {
  const rig = rigOf(content);
  const { takeId, fromCueUs } = await page.evaluate(
    async ([wish, seconds]) => {
      const { lab } = window as unknown as { lab: Lab };
      lab.startUploader();
      const lesson: LessonId = await lab.newLesson('Contents');
      const { takeId, cueUs, baseUs } = await lab.record(lesson, wish, seconds);
      await lab.finished(takeId);
      return { takeId, fromCueUs: cueUs - baseUs };
    },
    [rig, seconds + 1] as const,
  );
  const { size, crop } = fitted(rig.picture, content.given);
  const frames = seconds * RATE.num;
  const take = join(folder, `${content.name}.y4m`);
  const recorded = join(data, 'media', 'takes', takeId, 'recorded.mkv');
  const grid = `setpts=PTS-${(fromCueUs / 1e6).toFixed(6)}/TB,fps=${RATE.num}/${RATE.den}:start_time=0`;
  await runFfmpeg([
    ...['-y', '-copyts', '-i', recorded, '-filter_complex', composed(grid, content.camera), '-map', '[made]'],
    ...['-frames:v', String(frames), '-pix_fmt', 'yuv420p', take],
  ]);
  const times: number[] = [];
  for (let n = 0; n < frames; n += EVERY) times.push((n * 1000) / RATE.num);
  const drawn: Picture[] = [];
  // Some at a time: a minute of pictures is more than one message should carry.
  if (!content.box)
    for (let at = 0; at < times.length; at += 20) {
      const texts = await page.evaluate(
        ([kind, atMs]) => (window as unknown as { lab: Lab }).lab.pristine(kind, atMs),
        [content.source, times.slice(at, at + 20)] as const,
      );
      for (const text of texts)
        drawn.push(cropped({ ...content.given, data: new Uint8Array(Buffer.from(text, 'base64')) }, crop));
    }
  const [live] = await rows<{ bytes: string }>(
    "select sum(s.bytes) as bytes from segment s join track t on t.id = s.track_id where t.take_id = $1 and t.kind = 'screen'",
    [takeId],
  );
  return {
    ...content,
    size,
    take,
    frames,
    pristine: drawn,
    liveBytesPerSecond: Number(live?.bytes) / (seconds + 1),
  };
}

/** The screen on an even grid, with the camera over it where there is one. */
function composed(grid: string, camera: Rect | undefined): string {
  if (!camera) return `[0:v:0]${grid}[made]`;
  const { x, y, width, height } = camera;
  const noise = `noise=alls=${CAMERA_NOISE}:allf=t:all_seed=7`;
  return [
    `[0:v:0]${grid}[screen]`,
    `[0:v:1]${grid},scale=${width}:${height},${noise}[camera]`,
    `[screen][camera]overlay=${x}:${y}[made]`,
  ].join(';');
}

/** A picture without what the camera covers: there is no text to be read there. */
export function withoutCamera(picture: Picture, camera: Rect | undefined): Picture {
  if (!camera) return picture;
  const data = picture.data.slice();
  const { width, height } = picture;
  const blank = (offset: number, stride: number, { x, y, width, height }: Rect) => {
    for (let row = y; row < y + height; row++)
      data.fill(128, offset + row * stride + x, offset + row * stride + x + width);
  };
  const half = { x: camera.x / 2, y: camera.y / 2, width: camera.width / 2, height: camera.height / 2 };
  blank(0, width, camera);
  blank(width * height, width / 2, half);
  blank(width * height * 1.25, width / 2, half);
  return { ...picture, data };
}

function cropped({ width, height, data }: Picture, crop: Region): Picture {
  const out = new Uint8Array((crop.width * crop.height * 3) / 2);
  let at = 0;
  const area = width * height;
  for (const [offset, half] of [
    [0, 1],
    [area, 2],
    [area * 1.25, 2],
  ] as const)
    for (let y = 0; y < crop.height / half; y++) {
      const from = offset + (crop.y / half + y) * (width / half) + crop.x / half;
      out.set(data.subarray(from, from + crop.width / half), at);
      at += crop.width / half;
    }
  return { width: crop.width, height: crop.height, data: out };
}

/** Every `EVERY`th picture of a film. */
export function picturesOf(path: string, size: Size): Promise<Picture[]> {
  const filter = `select='not(mod(n,${EVERY}))',format=yuv420p`;
  const args = ['-v', 'error', '-i', path, '-vf', filter, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-'];
  const bytes = (size.width * size.height * 3) / 2;
  return new Promise((done, fail) => {
    const child = spawn('ffmpeg', args, { stdio: ['ignore', 'pipe', 'inherit'] });
    const parts: Buffer[] = [];
    child.stdout.on('data', (part) => parts.push(part));
    child.on('error', fail);
    child.on('close', () => {
      const all = Buffer.concat(parts);
      done(
        Array.from({ length: Math.floor(all.length / bytes) }, (_, n) => ({
          ...size,
          data: all.subarray(n * bytes, (n + 1) * bytes),
        })),
      );
    });
  });
}
