// The server's programs beside the web server. Each is put together with what it needs of src while the studio is built, so that one that
// is started again after a crash compiles nothing first.
import { rm } from 'node:fs/promises';

/** By their files in src/server. */
const PROGRAMS = /** @type {const} */ ([
  'worker',
  'share-pages',
  'demo/fill',
  'maintenance/migrate',
  'maintenance/adopt-by-hand',
  'maintenance/sweep-by-hand',
]);

const FOLDER = '.next/programs';

export async function buildPrograms() {
  const { build } = await import('esbuild');
  await rm(FOLDER, { recursive: true, force: true });
  await build({
    entryPoints: PROGRAMS.map((name) => `src/server/${name}.ts`),
    outbase: 'src/server',
    outdir: FOLDER,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    // Entities are told apart by the names of their classes.
    keepNames: true,
    sourcemap: true,
    tsconfig: 'tsconfig.json',
    logLevel: 'warning',
  });
}

/** What Node is told to run one of them. @param {typeof PROGRAMS[number]} name */
export const program = (name) => ['--enable-source-maps', `${FOLDER}/${name}.mjs`];
