// Audio worklets take one plain script and may fetch nothing: they are built beside the application, into the public folder.
import { copyFile, mkdir } from 'node:fs/promises';

export async function buildWorklets() {
  const { build } = await import('esbuild');
  await mkdir('public/sound', { recursive: true });
  await build({
    entryPoints: ['src/sound/treat.worklet.ts'],
    outfile: 'public/sound/treat.js',
    bundle: true,
    minify: true,
    format: 'iife',
    target: 'es2022',
    tsconfig: 'tsconfig.json',
    logLevel: 'warning',
  });
  await copyFile(
    'node_modules/@sapphi-red/web-noise-suppressor/dist/rnnoise_simd.wasm',
    'public/sound/rnnoise.wasm',
  );
  await copyFile('node_modules/signalsmith-stretch/SignalsmithStretch.mjs', 'public/sound/stretch.js');
}
