import { type BrowserContext, test as base, expect, type Page } from '@playwright/test';
import { launch, withProfile } from './browser';
import { type Filmed, filmedOnce } from './filmed';

type Own = {
  /** An empty browser profile, for a test that launches its browser itself. */
  profile: string;
  /** A page in a browser that knows nothing of the studio but its code; any error of the page fails the test. */
  studio: Page;
  /** Requests that the test makes the studio refuse: the browser speaks of those as errors. */
  refused: RegExp | null;
};

type Shared = {
  filmed: Filmed;
  /** One browser for a worker's tests; its first page stays empty. */
  visited: BrowserContext;
};

/** Everything that the studio's pages have kept: recordings, settings, cookies. What a cache holds of its code stays. */
async function forget(page: Page): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const origin = process.env.BASE_URL ?? '';
  await session.send('Storage.clearDataForOrigin', { origin, storageTypes: 'all' });
  await session.detach();
}

/** What takes long and is shown in the small by other tests: `npm run test:all` adds it. */
export const AT_LENGTH = '@at-length';

export const test = base.extend<Own, Shared>({
  refused: [null, { option: true }],
  // biome-ignore lint/correctness/noEmptyPattern: the runner wants an object pattern
  profile: async ({}, use) => {
    await withProfile(use);
  },
  studio: async ({ visited, refused }, use) => {
    const page = await visited.newPage();
    const errors = collectErrors(page);
    await use(page);
    const [empty, ...used] = visited.pages();
    for (const each of used) await each.close();
    if (empty) await forget(empty);
    expect(errors.filter((error) => !refused?.test(error))).toEqual([]);
  },
  visited: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner wants an object pattern
    async ({}, use) => {
      await withProfile(async (profile) => {
        const context = await launch(profile);
        if (context.pages().length === 0) await context.newPage();
        await use(context);
        await context.close();
      });
    },
    { scope: 'worker' },
  ],
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
    if (message.type() === 'error')
      errors.push(`${message.text()} (${message.worker()?.url() ?? message.location().url})`);
  });
  return errors;
}
