// Whether what the browser recorded is what the server keeps, told apart from the product's own comparison of hashes.

import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import type { BrowserContext } from '@playwright/test';
import { JOURNAL_VERSION } from '@/recorder/journal';
import { journalSha256 } from '../../tests/support/journals';

const CONFIRM = /\/api\/takes\/([^/]+)\/segments\/([^/]+)\/confirm$/;

/**
 * Hashes each part of each segment in the browser's own storage just before the server is asked to confirm it: once it has, the browser
 * lets go of it. A page of its own reads them, so that the recording one keeps its memory.
 * @returns 1 where every file on the server has the browser's bytes and there is one, else 0
 */
export async function watchBytes(
  browser: BrowserContext,
  url: string,
  data: string,
): Promise<() => Promise<0 | 1>> {
  const files = new Map<string, { take: string; sha256: string }>();
  await browser.route(CONFIRM, async (route) => {
    const [, take = '', segment = ''] = CONFIRM.exec(new URL(route.request().url()).pathname) ?? [];
    const name = `${segment}.${route.request().postDataJSON().part}`;
    const reader = await browser.newPage();
    await reader.goto(`${url}/icon.svg`);
    files.set(name, {
      take,
      sha256: await journalSha256(reader, `journal-${JOURNAL_VERSION}/${take}/${name}`),
    });
    await reader.close();
    await route.continue();
  });
  return async () => {
    for (const [name, { take, sha256 }] of files)
      if ((await sha256Of(join(data, 'media', 'takes', take, name))) !== sha256) return 0;
    return files.size > 0 ? 1 : 0;
  };
}

async function sha256Of(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of createReadStream(path)) hash.update(part);
  return hash.digest('hex');
}
