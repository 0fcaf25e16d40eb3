import { spawn } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { ProblemError } from '@/core/base/problem';
import { svgDanger } from '@/core/recording/brought-in';
import { namesIn, sizeOf } from './media-folder';

/** More slides than this are no lesson, and a file that has them may be a trap. */
export const MOST_PAGES = 200;
const LONGEST_S = 120;
const MOST_MEMORY = 2e9;
const SVG_BYTES = 20e6;

/** Runs a program that ends with this process, and that may use only so much time and memory: what it reads comes from anywhere. */
function limited(
  program: string,
  args: readonly string[],
  input: string | null,
  signal: AbortSignal,
): Promise<void> {
  const limits = [`--cpu=${LONGEST_S}`, `--as=${MOST_MEMORY}`, '--nofile=64'];
  const child = spawn(
    'setpriv',
    ['--pdeathsig', 'KILL', '--', 'prlimit', ...limits, '--', program, ...args],
    {
      stdio: [input ? 'pipe' : 'ignore', 'ignore', 'pipe'],
      signal,
      killSignal: 'SIGKILL',
      timeout: LONGEST_S * 2000,
    },
  );
  let said = '';
  child.stderr?.on('data', (data) => {
    said = (said + data).slice(-2000);
  });
  if (input && child.stdin) {
    child.stdin.on('error', () => undefined);
    createReadStream(input).pipe(child.stdin);
  }
  return new Promise((done, failed) => {
    child.once('error', failed);
    child.once('close', (code) =>
      code === 0
        ? done()
        : failed(new Error(`${program} failed (${code}): ${said.trim().split('\n').at(-1)}`)),
    );
  });
}

const broken = (what: string, cause: unknown) =>
  new ProblemError(
    {
      code: 'bad-media',
      message: `This ${what} cannot be read.`,
      hint: 'Check that all of it was copied and that it opens without a password.',
    },
    { cause },
  );

/**
 * The pages of a PDF as pictures.
 * @param longSide of each, pixels
 * @returns their files, in order
 * @throws {ProblemError} `bad-media` when it is broken, locked or has too many
 */
export async function renderPdf(
  path: string,
  folder: string,
  longSide: number,
  signal: AbortSignal,
): Promise<string[]> {
  try {
    const args = [
      '-png',
      '-l',
      String(MOST_PAGES + 1),
      '-scale-to',
      String(longSide),
      path,
      join(folder, 'page'),
    ];
    await limited('pdftoppm', args, null, signal);
  } catch (error) {
    signal.throwIfAborted();
    throw broken('PDF', error);
  }
  const pages = (await namesIn(folder)).filter((name) => name.endsWith('.png')).sort();
  if (pages.length === 0 || pages.length > MOST_PAGES)
    throw new ProblemError({
      code: 'bad-media',
      message: pages.length === 0 ? 'This PDF has no pages.' : `This PDF has more than ${MOST_PAGES} pages.`,
      hint: 'Save the slides that you want to show as a PDF of their own.',
    });
  return pages.map((name) => join(folder, name));
}

/**
 * A drawing as a picture. It is read from a pipe: then the library looks for no other file.
 * @throws {ProblemError} `bad-media` when it is broken, or has what a drawing does not need
 */
export async function renderSvg(
  path: string,
  folder: string,
  width: number,
  signal: AbortSignal,
): Promise<string> {
  const isSmall = ((await sizeOf(path)) ?? 0) <= SVG_BYTES;
  const danger = isSmall ? svgDanger(await readFile(path, 'utf8')) : 'more than 20 MB';
  if (danger)
    throw new ProblemError({
      code: 'bad-media',
      message: `This SVG has ${danger}, and is not read.`,
      hint: 'Export it as a plain SVG or as a PNG.',
    });
  const out = join(folder, 'page.png');
  try {
    await limited(
      'rsvg-convert',
      ['--keep-aspect-ratio', '-w', String(width), '-f', 'png', '-o', out],
      path,
      signal,
    );
  } catch (error) {
    signal.throwIfAborted();
    throw broken('SVG', error);
  }
  return out;
}
