// Debian packages the product needs, installed when missing. Uses nothing but Node.
import { existsSync, readdirSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { Plain, run, step } from './steps.mjs';

/** What each package is recognised by, so that a machine that has the program by other means is left alone. */
const PROOF = /** @type {Record<string, () => boolean>} */ ({
  postgresql: () => postgresBin() !== undefined,
  ffmpeg: () => onPath('ffmpeg') && onPath('ffprobe'),
  chromium: () => onPath('chromium'),
  'poppler-utils': () => onPath('pdftoppm'),
  'librsvg2-bin': () => onPath('rsvg-convert'),
  xvfb: () => onPath('Xvfb'),
  xdotool: () => onPath('xdotool'),
  'x11-apps': () => onPath('xclock'),
  'x11-utils': () => onPath('xprop'),
});

/** @param {string} program */
function onPath(program) {
  return (process.env.PATH ?? '')
    .split(delimiter)
    .some((dir) => dir !== '' && existsSync(join(dir, program)));
}

/** The newest installed PostgreSQL's folder of programs, or undefined. Debian does not put them on the path. */
export function postgresBin() {
  const root = '/usr/lib/postgresql';
  if (!existsSync(root)) return undefined;
  const versions = readdirSync(root).sort((a, b) => Number(b) - Number(a));
  return versions.map((v) => join(root, v, 'bin')).find((bin) => existsSync(join(bin, 'postgres')));
}

/**
 * Installs the missing ones of the named packages: as root directly, else by sudo.
 * @param {string[]} packages names that `PROOF` knows
 * @throws {Plain} with the exact command when neither is possible
 */
export async function ensurePackages(packages) {
  const missing = packages.filter((name) => !PROOF[name]?.());
  if (missing.length === 0) return;
  const install = ['apt-get', 'install', '-y', '--no-install-recommends', ...missing];
  const byHand = `This machine lacks ${missing.join(', ')}. Install with:\n    sudo apt-get update && sudo ${install.join(' ')}\nthen start again.`;
  const root = process.getuid?.() === 0;
  if (!onPath('apt-get')) throw new Plain(byHand);
  if (!root && !onPath('sudo')) throw new Plain(byHand);
  if (!root) {
    // Without a terminal sudo could only hang on its password.
    const quiet = await run('sudo', ['-n', 'true']).then(
      () => true,
      () => false,
    );
    if (!quiet && !process.stdin.isTTY) throw new Plain(byHand);
    if (!quiet) await run('sudo', ['-v'], { show: true, failure: byHand });
  }
  const as = (/** @type {string[]} */ words) => (root ? words : ['sudo', ...words]);
  await step(`Installing ${missing.join(', ')} from Debian's packages`, async (progress) => {
    for (const words of [as(['apt-get', 'update']), as(install)]) {
      const [first = '', ...rest] = words;
      await run(first, rest, {
        progress,
        env: { DEBIAN_FRONTEND: 'noninteractive' },
        failure: `Debian's packages could not be installed.\n${byHand}`,
      });
    }
  });
  const still = missing.filter((name) => !PROOF[name]?.());
  if (still.length > 0) throw new Plain(`Installed, but not found: ${still.join(', ')}.\n${byHand}`);
}
