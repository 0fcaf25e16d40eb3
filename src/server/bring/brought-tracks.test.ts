// Files as people have them, really read: what comes out are tracks as a recorder gives them.
import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, describe, expect, it } from 'vitest';
import { measureFile } from '../media/measure';
import { probeFile } from '../media/probe-file';
import { mediaTracks, slideTracks } from './brought-tracks';

const run = promisify(execFile);
const folder = mkdtempSync(join(tmpdir(), 'otter-brought-'));
afterAll(() => rmSync(folder, { recursive: true }));
const { signal } = new AbortController();
const SIZE = { width: 640, height: 360 };
let count = 0;
const next = () => join(folder, `parts-${count++}`);

async function made(name: string, args: readonly string[]): Promise<string> {
  const path = join(folder, name);
  await run('ffmpeg', ['-v', 'error', '-y', ...args, path]);
  return path;
}

/** A PDF whose pages are each of one colour, as small as one can be. */
function pdf(colours: readonly [number, number, number][]): string {
  const pages = colours.map((_, i) => `${3 + 2 * i} 0 R`).join(' ');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    `<< /Type /Pages /Kids [${pages}] /Count ${colours.length} >>`,
    ...colours.flatMap((colour, i) => {
      const content = `${colour.join(' ')} rg 0 0 400 300 re f`;
      return [
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Contents ${4 + 2 * i} 0 R >>`,
        `<< /Length ${content.length} >>\nstream\n${content}\nendstream`,
      ];
    }),
  ];
  let text = '%PDF-1.4\n';
  const at = objects.map((object, i) => {
    const offset = text.length;
    text += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return offset;
  });
  const table = at.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  const end = `trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`;
  return `${text}xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}${end}`;
}

/** Red, green and blue in the middle of a film's picture. */
async function middle(path: string, atS: number): Promise<number[]> {
  const { stdout } = await run(
    'ffmpeg',
    [
      ...['-v', 'error', '-ss', String(atS), '-i', path, '-frames:v', '1'],
      ...['-vf', 'scale=in_color_matrix=bt709,crop=2:2:iw/2:ih/2,format=rgb24', '-f', 'rawvideo', '-'],
    ],
    { encoding: 'buffer' },
  );
  return [...stdout.subarray(0, 3)];
}
/** How far it was said to be. */
const shares: number[] = [];
const note = (share: number) => shares.push(share);

const near = (seen: number[], wanted: number[]) =>
  seen.forEach((value, i) => {
    expect(Math.abs(value - (wanted[i] ?? 0))).toBeLessThanOrEqual(6);
  });

describe('slides', () => {
  it('of a PDF are a film of 1 fps, in their order and colours, each of the lesson’s size', async () => {
    const path = join(folder, 'slides.pdf');
    writeFileSync(
      path,
      pdf([
        [1, 0, 0],
        [0, 0.5, 0],
        [0, 0, 1],
      ]),
    );
    shares.length = 0;
    const { tracks, durationUs, pages } = await slideTracks('pdf', path, next(), SIZE, note, signal);
    expect(shares).toEqual([0, 0.25, 0.5]);
    expect([pages, durationUs, tracks.length]).toEqual([3, 3_000_000, 1]);
    const film = tracks[0]?.path ?? '';
    const [picture] = (await probeFile(film)).pictures;
    expect([picture?.timesUs, picture?.keyframesUs, picture?.reordered]).toEqual([
      [0, 1_000_000, 2_000_000],
      [0, 1_000_000, 2_000_000],
      false,
    ]);
    const { video } = await measureFile(film, { withLoudness: false });
    expect([video?.width, video?.height]).toEqual([SIZE.width, SIZE.height]);
    near(await middle(film, 0), [255, 0, 0]);
    near(await middle(film, 1), [0, 128, 0]);
    near(await middle(film, 2), [0, 0, 255]);
  });

  it.each(['png', 'jpg', 'webp'])(
    'of a %s are one picture, never enlarged, what is transparent on white',
    async (ending) => {
      const source = ending === 'png' ? 'color=c=red@0:s=200x100,format=rgba' : 'color=c=red:s=200x100';
      const path = await made(`still.${ending}`, ['-f', 'lavfi', '-i', source, '-frames:v', '1']);
      const { tracks, pages } = await slideTracks('still', path, next(), SIZE, note, signal);
      expect(pages).toBe(1);
      near(await middle(tracks[0]?.path ?? '', 0), ending === 'png' ? [255, 255, 255] : [254, 0, 0]);
    },
  );

  it('of an SVG are drawn as large as the lesson is', async () => {
    const path = join(folder, 'plan.svg');
    writeFileSync(
      path,
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 16 9"><rect width="16" height="9" fill="#0000ff"/></svg>',
    );
    const { tracks } = await slideTracks('svg', path, next(), SIZE, note, signal);
    near(await middle(tracks[0]?.path ?? '', 0), [0, 0, 255]);
  });

  it.each([
    ['pdf', '%PDF-1.4\nnothing more'],
    ['still', '\x89PNG broken'],
    ['svg', '<svg><rect</svg>'],
    ['svg', '<svg onload="x()"/>'],
  ] as const)('of a broken or dangerous %s are refused with a reason', async (kind, text) => {
    const path = join(folder, `broken-${count++}`);
    writeFileSync(path, text, 'latin1');
    await expect(slideTracks(kind, path, next(), SIZE, note, signal)).rejects.toMatchObject({
      problem: { code: 'bad-media' },
    });
  });
});

describe('media', () => {
  it('that no browser plays becomes what every browser plays: as long, in sync, with its own rate', async () => {
    const path = await made('film.avi', [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=322x181:r=25:d=2', '-f', 'lavfi', '-i', 'sine=f=440:d=2'],
      ...['-c:v', 'mpeg4', '-bf', '2', '-c:a', 'mp2', '-ac', '2'],
    ]);
    shares.length = 0;
    const { tracks, durationUs, rate, pages } = await mediaTracks(path, next(), note, signal);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.at(-1)).toBeGreaterThan(0.9);
    expect([tracks.map(({ head }) => head.track), rate, pages]).toEqual([
      ['screen', 'voice'],
      { num: 25, den: 1 },
      null,
    ]);
    const [film, sound] = await Promise.all(
      tracks.map((track) => measureFile(track.path, { withLoudness: false })),
    );
    expect([film?.video?.codec, film?.video?.width, film?.video?.height]).toEqual(['h264', 322, 180]);
    expect(film?.video?.frames).toBeGreaterThanOrEqual(49);
    expect([sound?.sound?.codec, sound?.sound?.channels]).toEqual(['flac', 2]);
    expect(Math.abs((sound?.durationUs ?? 0) - durationUs)).toBeLessThan(100_000);
    const [picture] = (await probeFile(tracks[0]?.path ?? '')).pictures;
    // This container keeps no times, and what is stored in another order is found a frame late.
    expect(picture?.reordered).toBe(false);
    expect(picture?.timesUs[0]).toBeLessThanOrEqual(40_000);
  });

  it('of sound alone has no picture', async () => {
    const path = await made('voice.mp3', ['-f', 'lavfi', '-i', 'sine=f=300:d=1']);
    const { tracks, rate } = await mediaTracks(path, next(), note, signal);
    expect([tracks.map(({ head }) => head.track), rate]).toEqual([['voice'], null]);
  });

  it('that is none is refused with a reason', async () => {
    const path = join(folder, 'notes.txt');
    writeFileSync(path, 'Sow the beans in May.');
    await expect(mediaTracks(path, next(), note, signal)).rejects.toMatchObject({
      problem: { code: 'bad-media' },
    });
  });

  it('ends when whoever sent it goes away', async () => {
    const path = await made('long.avi', [
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=640x360:r=25:d=20',
      '-c:v',
      'mpeg4',
    ]);
    const gone = new AbortController();
    const working = mediaTracks(path, next(), note, gone.signal);
    setTimeout(() => gone.abort(), 300);
    await expect(working).rejects.toThrow();
  });
});
