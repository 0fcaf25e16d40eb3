import { defineConfig } from '@playwright/test';

const ALONE = [
  '**/faults/{brought,interrupted,renders,room}.spec.ts',
  '**/{player,rehearse,test-card}.spec.ts',
];
/** Many files of many rigs, sounds, regions and layouts, each decoded and compared: minutes each. `npm run test:all` adds them. */
const AT_LENGTH = ['**/{aiming,own-tab,rigs,sound,x-display}.spec.ts', '**/tests/renders.spec.ts'];
/** Single tests of other files that are as long (`AT_LENGTH` in tests/support/test.ts). */
const TAGGED = /@at-length/;

export default defineConfig({
  testDir: 'tests',
  globalSetup: './tests/support/begin.ts',
  fullyParallel: true,
  workers: 2,
  // What kills a server, fills a disk, counts dropped frames or listens while it plays runs alone; what only asks whether a file is right shares the two cores.
  projects: [
    { name: 'alone', testMatch: ALONE, grepInvert: TAGGED, workers: 1 },
    { name: 'side by side', testIgnore: [...ALONE, ...AT_LENGTH], grepInvert: TAGGED, workers: 2 },
    { name: 'at length', testMatch: AT_LENGTH, workers: 1 },
    { name: 'tagged', testIgnore: [...ALONE, ...AT_LENGTH], grep: TAGGED, workers: 2 },
    { name: 'tagged alone', testMatch: ALONE, grep: TAGGED, workers: 1 },
  ],
  timeout: 180_000,
  // A shared machine may stand still for seconds in the middle of a recording. What passes only the second time is named as flaky by
  // the runner and is looked into.
  retries: 2,
  // Opening the sources takes some seconds on a loaded machine.
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    baseURL: process.env.BASE_URL,
    viewport: { width: 1280, height: 800 },
    // What cannot be clicked by then is not there: the whole test need not be waited for.
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
      ],
    },
  },
});
