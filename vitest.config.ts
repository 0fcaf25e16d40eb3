import { resolve } from 'node:path';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': resolve(import.meta.dirname, 'src') } },
  test: {
    include: ['src/**/*.test.{ts,tsx}', 'scripts/**/*.test.ts'],
    environment: 'node',
    // Each file still evaluates its modules afresh; a process for each file takes half as much time again.
    isolate: false,
    // Vitest leaves a core to itself, which is half of a small machine.
    maxWorkers: '100%',
    // The studio's ffmpeg has the lowest priority, and the production build takes both cores meanwhile.
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
