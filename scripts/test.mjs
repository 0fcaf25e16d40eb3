// npm test: everything that must hold, from a bare machine; with --all (npm run test:all) what takes much longer too. Uses nothing but Node until the packages are there.
import { spawn } from 'node:child_process';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort } from './cluster.mjs';
import { ensurePackages } from './debian.mjs';
import { checkNode, ensureBuild, ensureModules } from './prepare.mjs';
import { command, Plain, run } from './steps.mjs';
import { startStudio } from './studio.mjs';
import { withDatabase } from './with-database.mjs';

/** @param {string} name @param {string[]} args */
const tool = (name, args) =>
  run('node', [`node_modules/${name}`, ...args], { show: true, failure: `${name} failed.` });

/** Runs a tool and keeps what it says. @param {string} name @param {string[]} args @returns {Promise<{ ok: boolean; text: string }>} */
const captured = (name, args) =>
  new Promise((done) => {
    const child = spawn('node', [`node_modules/${name}`, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data) => {
        text += data;
      });
    child.on('close', (code) => done({ ok: code === 0, text }));
  });

/** What the tools are given, but for this script's own. */
const passedOn = process.argv.slice(2).filter((arg) => arg !== '--all');
const projects = [
  'side by side',
  'alone',
  ...(process.argv.includes('--all') ? ['at length', 'tagged', 'tagged alone'] : []),
];

/** @param {string} project of `playwright.config.ts` @param {Record<string, string>} env what the tests are told of the studio */
const endToEnd = (project, env) =>
  run(
    'node',
    [
      'node_modules/@playwright/test/cli.js',
      'test',
      `--project=${project}`,
      '--pass-with-no-tests',
      ...passedOn,
    ],
    { show: true, env, failure: `The end-to-end tests ${project} failed.` },
  );

command(async () => {
  process.chdir(resolve(dirname(fileURLToPath(import.meta.url)), '..'));
  checkNode();
  await ensurePackages([
    'postgresql',
    'ffmpeg',
    'poppler-utils',
    'librsvg2-bin',
    'chromium',
    'xvfb',
    'xdotool',
    'x11-apps',
    'x11-utils',
  ]);
  await ensureModules();
  /** @type {string[]} */
  const failed = [];
  /** @param {string} what @param {() => Promise<unknown>} check */
  const part = async (what, check) => {
    try {
      await check();
    } catch (error) {
      failed.push(what);
      console.error(error instanceof Plain ? error.message : error);
    }
  };
  await part('format and lint', () => tool('@biomejs/biome/bin/biome', ['ci', '--error-on-warnings', '.']));
  // Next writes the types of its routes before anything can be checked against them.
  await part('types of routes', () =>
    run('node', ['node_modules/next/dist/bin/next', 'typegen'], { env: { NEXT_TELEMETRY_DISABLED: '1' } }),
  );
  await part('import rules', () =>
    tool('dependency-cruiser/bin/dependency-cruise.mjs', ['src', 'scripts', 'tests']),
  );
  await part('controls', () =>
    run('node', ['scripts/controls.mjs'], { show: true, failure: 'Too few controls are Ant Design’s.' }),
  );
  // Building, types and units share the machine: none has anything to do with another, and what each says is shown when it is over.
  const beside = {
    // Checks in a third of the time; the build and the import rules still use the one before, as a library.
    types: captured('typescript-7/bin/tsc', ['--noEmit']),
    units: captured('vitest/vitest.mjs', ['run']),
  };
  await part('production build', ensureBuild);
  for (const [what, checked] of Object.entries(beside))
    await part(what, async () => {
      const { ok, text } = await checked;
      process.stdout.write(text);
      if (!ok) throw new Plain(`There is something wrong in ${what}.`);
    });
  await withDatabase(async ({ data, url, supervisor }) => {
    const port = await freePort();
    await startStudio({ supervisor, databaseUrl: url, data, port });
    const schema = ['--import', 'tsx', 'scripts/check-schema.ts'];
    await part('entities and migrations', () =>
      run('node', schema, {
        show: true,
        env: { DATABASE_URL: url },
        failure: 'Entities and migrations disagree.',
      }),
    );
    const env = { BASE_URL: `http://127.0.0.1:${port}`, DATABASE_URL: url, DATA_DIR: data };
    for (const project of projects) await part(`end to end, ${project}`, () => endToEnd(project, env));
  });
  if (failed.length > 0) throw new Plain(`Failed: ${failed.join(', ')}.`);
});
