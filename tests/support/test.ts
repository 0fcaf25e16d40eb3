import { test as base, expect, type Page } from '@playwright/test';
import { launch, withProfile } from './browser';
import { type Filmed, filmedOnce } from './filmed';

type Own = {
  profile: string;
  /** A page in a browser with a profile of its own; any error of the page fails the test. */
  studio: Page;
  refused: RegExp | null;
};

export const test = base.extend<Own, { filmed: Filmed }>({
  /** Requests that the test makes the studio refuse: the browser speaks of those as errors. */
  refused: [null, { option: true }],
  // biome-ignore lint/correctness/noEmptyPattern: the runner wants an object pattern
  profile: async ({}, use) => {
    await withProfile(use);
  },
  studio: async ({ profile, refused }, use) => {
    const context = await launch(profile);
    const page = context.pages()[0] ?? (await context.newPage());
    const errors = collectErrors(page);
    await use(page);
    await context.close();
    expect(errors.filter((error) => !refused?.test(error))).toEqual([]);
  },
  // Those that cut it are run one after the other: a lesson has one cut.
  filmed: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner wants an object pattern
    async ({}, use) => {
      await use(await filmedOnce());
    },
    { scope: 'worker', timeout: 120_000 },
  ],
});

export function collectErrors(page: Page): string[] {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => {
    // Chromium speaks of lost pictures as an error too: each one counts, because a capture stalls when its pictures do not come back.
    if (message.type() === 'error') errors.push(`${message.text()} (${message.location().url})`);
  });
  return errors;
}
