import { spawn } from 'node:child_process';
import { frameTimeUs } from '@/core/base/rational';
import { BEEP_HZ, BEEP_MS, CARD_RATE, FLASH_EVERY_FRAMES, readCard } from '@/practice/test-card-code';

/** Runs a program and gives what it writes to standard output, piece by piece. */
function pipe(command: string, args: string[], onData: (data: Buffer) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    let words = '';
    child.stderr.on('data', (data) => {
      words = (words + data).slice(-1000);
    });
    child.stdout.on('data', onData);
    child.on('error', reject);
    child.on('close', (code) => (code === 0 ? resolve() : reject(new Error(`${command}: ${words}`))));
  });
}

export async function text(command: string, args: string[]): Promise<string> {
  let all = '';
  await pipe(command, args, (data) => {
    all += data;
  });
  return all;
}

export type CardFrame = { ptsUs: number; frame: number | null; flash: boolean };

/** Times of a video stream's packets in presentation order, µs, as they stand in the file. */
export async function videoTimes(file: string, stream = 'v:0'): Promise<number[]> {
  const args = [
    '-v',
    'error',
    '-select_streams',
    stream,
    '-show_entries',
    'packet=pts_time',
    '-of',
    'csv=p=0',
    file,
  ];
  const times = (await text('ffprobe', args)).split('\n').filter(Boolean);
  return times.map((time) => Math.round(Number.parseFloat(time) * 1e6)).sort((a, b) => a - b);
}

/**
 * Decodes every picture of a file of the test card and reads its number.
 * @param area in which it is read: a quarter of the pixels is enough where there are hours of it
 */
export async function readCardFilm(
  file: string,
  stream = 'v:0',
  area = { width: 640, height: 360 },
): Promise<CardFrame[]> {
  const size = area.width * area.height;
  const times = await videoTimes(file, stream);
  const frames: CardFrame[] = [];
  let rest: Buffer = Buffer.alloc(0);
  const scale = `scale=${area.width}:${area.height}:flags=area,format=gray`;
  const args = [
    '-v',
    'error',
    '-i',
    file,
    '-map',
    `0:${stream}`,
    '-vf',
    scale,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-',
  ];
  await pipe('ffmpeg', args, (data) => {
    rest = rest.length > 0 ? Buffer.concat([rest, data]) : data;
    while (rest.length >= size) {
      const { frame, flash } = readCard(new Uint8Array(rest.subarray(0, size)), area);
      frames.push({ ptsUs: times[frames.length] ?? 0, frame, flash });
      rest = rest.subarray(size);
    }
  });
  return frames;
}

/**
 * Time and hash of each picture of a stream as it is decoded, a line each.
 * @param skipped which packets the decoder leaves out: `noref` those that no other picture needs
 */
export async function pictureHashes(file: string, stream: string, skipped = 'none'): Promise<string[]> {
  const input = ['-v', 'error', '-skip_frame', skipped, '-i', file, '-map', `0:${stream}`];
  const lines = (await text('ffmpeg', [...input, '-fps_mode', 'passthrough', '-f', 'framemd5', '-'])).split(
    '\n',
  );
  return lines
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => {
      const [, , pts = '', , , hash = ''] = line.split(',').map((field) => field.trim());
      return `${pts} ${hash}`;
    });
}

/** The bytes of a stream's picture at a time, as a filter leaves them. */
export async function rawOf(file: string, atS: number, stream: string, filter: string): Promise<Buffer> {
  const parts: Buffer[] = [];
  const input = ['-v', 'error', '-ss', String(atS), '-i', file, '-map', `0:${stream}`];
  await pipe('ffmpeg', [...input, '-frames:v', '1', '-vf', filter, '-f', 'rawvideo', '-'], (data) =>
    parts.push(data),
  );
  return Buffer.concat(parts);
}

/** Red, green and blue of one pixel of the picture at a time. */
export async function pixelOf(
  file: string,
  atS: number,
  { x, y }: { x: number; y: number },
): Promise<number[]> {
  return [...(await rawOf(file, atS, 'v:0', `crop=2:2:${x}:${y},format=rgb24`)).subarray(0, 3)];
}

/** One whole picture: red, green and blue of its pixel at a place. */
export async function pictureAt(file: string, atS: number) {
  const size = await text('ffprobe', [
    ...[
      '-v',
      'error',
      '-select_streams',
      'v:0',
      '-show_entries',
      'stream=width,height',
      '-of',
      'csv=p=0',
      file,
    ],
  ]);
  const [width = 0, height = 0] = size.trim().split(',').map(Number);
  const parts: Buffer[] = [];
  const args = [
    '-v',
    'error',
    '-ss',
    String(atS),
    '-i',
    file,
    '-frames:v',
    '1',
    '-pix_fmt',
    'rgb24',
    '-f',
    'rawvideo',
    '-',
  ];
  await pipe('ffmpeg', args, (data) => parts.push(data));
  const pixels = Buffer.concat(parts);
  const at = (x: number, y: number): number[] => {
    const first = 3 * (Math.round(y) * width + Math.round(x));
    return [...pixels.subarray(first, first + 3)];
  };
  return { width, height, at };
}

const RATE = 48_000;

/**
 * Samples of a sound stream, one channel, from the file's time 0: a late first sample is preceded by silence.
 * @param channel all of them together where none is named
 * @param part only this much of it, s
 */
export async function samplesOf(
  file: string,
  stream = 'a:0',
  channel?: number,
  part?: { fromS: number; lengthS: number },
): Promise<Float32Array> {
  const parts: Buffer[] = [];
  const taken = channel === undefined ? '' : `,pan=mono|c0=c${channel}`;
  const cut = part ? `,atrim=start=${part.fromS}:duration=${part.lengthS}` : '';
  const fill = `aresample=48000:async=1:first_pts=0${taken}${cut}`;
  const args = [
    '-v',
    'error',
    '-copyts',
    '-i',
    file,
    '-map',
    `0:${stream}`,
    '-af',
    fill,
    '-ac',
    '1',
    '-f',
    'f32le',
    '-',
  ];
  await pipe('ffmpeg', args, (data) => parts.push(data));
  const all = Buffer.concat(parts);
  return new Float32Array(all.buffer.slice(all.byteOffset, all.byteOffset + (all.length & ~3)));
}

const WINDOW = RATE / 200;
const HOP = RATE / 2000;
/** The tone must last this many hops to be the card's and not a syllable. */
const LEAST_HOPS = (BEEP_MS - 15) * (RATE / HOP / 1000);

/**
 * Instants at which the test card's tone begins, µs, also under speech: where a 5 ms window holds half of the tone's
 * amplitude, its middle is the edge.
 */
export function beepOnsets(samples: Float32Array): number[] {
  const amplitudes: number[] = [];
  for (let at = 0; at + WINDOW <= samples.length; at += HOP) {
    let [x, y] = [0, 0];
    for (let i = 0; i < WINDOW; i++) {
      const angle = (2 * Math.PI * BEEP_HZ * (at + i)) / RATE;
      x += (samples[at + i] ?? 0) * Math.cos(angle);
      y += (samples[at + i] ?? 0) * Math.sin(angle);
    }
    amplitudes.push(Math.hypot(x, y));
  }
  const sorted = [...amplitudes].sort((a, b) => a - b);
  // The tone sounds a twentieth of the time: its steady level stands near the top.
  const half = (sorted[Math.floor(sorted.length * 0.975)] ?? 0) / 2;
  const onsets: number[] = [];
  let run = 0;
  amplitudes.forEach((amplitude, i) => {
    run = amplitude > half ? run + 1 : 0;
    if (run !== Math.round(LEAST_HOPS)) return;
    const first = i - run + 1;
    onsets.push(((first * HOP + WINDOW / 2) * 1e6) / RATE);
  });
  return onsets;
}

/** First pictures of the flashes, µs; only flashes whose very first frame was recorded tell the instant. */
export function flashOnsets(frames: readonly CardFrame[]): number[] {
  return frames
    .filter(
      ({ frame, flash }, i) =>
        flash && frame !== null && frame % FLASH_EVERY_FRAMES === 0 && frames[i - 1]?.frame !== frame,
    )
    .map(({ ptsUs }) => ptsUs);
}

export type SyncFigures = { medianMs: number; worstMs: number; driftMs: number; pairs: number };

/** Picture against sound: positive when the sound comes late. Drift is the last third's median less the first third's. */
export function syncFigures(flashes: readonly number[], beeps: readonly number[]): SyncFigures {
  const apart = flashes.flatMap((flash) => {
    const nearest = beeps.reduce(
      (best, beep) => (Math.abs(beep - flash) < Math.abs(best - flash) ? beep : best),
      Number.POSITIVE_INFINITY,
    );
    return Math.abs(nearest - flash) < 500_000 ? [(nearest - flash) / 1000] : [];
  });
  const median = (values: number[]) =>
    [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;
  const third = Math.ceil(apart.length / 3);
  return {
    medianMs: median(apart),
    worstMs: apart.reduce((worst, v) => (Math.abs(v) > Math.abs(worst) ? v : worst), 0),
    driftMs: median(apart.slice(-third)) - median(apart.slice(0, third)),
    pairs: apart.length,
  };
}

/** The numbers between the first and the last picture that are in no picture. */
export function missingNumbers(frames: readonly CardFrame[]): number[] {
  const seen = new Set(frames.map(({ frame }) => frame).filter((frame) => frame !== null));
  if (seen.size === 0)
    throw new Error('No picture of this film has a number: it does not show the test card.');
  // As arguments of one call, the numbers of two hours would be too many.
  const sorted = [...seen].sort((a, b) => a - b);
  const missing: number[] = [];
  for (let n = sorted[0] ?? 0; n <= (sorted.at(-1) ?? -1); n++) if (!seen.has(n)) missing.push(n);
  return missing;
}

export const CARD_FRAME_US = frameTimeUs(1, CARD_RATE);
