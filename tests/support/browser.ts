import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, chromium } from '@playwright/test';

/** Lends an empty browser profile on disk. */
export async function withProfile<T>(work: (profile: string) => Promise<T>): Promise<T> {
  const profile = mkdtempSync(join(tmpdir(), 'otter-profile-'));
  try {
    return await work(profile);
  } finally {
    try {
      rmSync(profile, { recursive: true, force: true, maxRetries: 10, retryDelay: 200 });
    } catch {
      // A browser process that is still ending may write into it: the system clears its temporary folder in time.
    }
  }
}

const FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

type LaunchOptions = { args?: string[]; headless?: boolean; env?: Record<string, string> };

/** A browser whose storage lies on disk, as a user's does: an ephemeral profile writes ten times slower. */
export async function launch(
  profile: string,
  { args = [], headless = true, env }: LaunchOptions = {},
): Promise<BrowserContext> {
  return chromium.launchPersistentContext(profile, {
    executablePath: '/usr/bin/chromium',
    headless,
    // A real window keeps the size it was given, so that it leaves room on the display for what is recorded.
    viewport: headless ? { width: 1280, height: 800 } : null,
    baseURL: process.env.BASE_URL,
    ignoreDefaultArgs: ['--mute-audio'],
    args: [...FLAGS, ...args],
    env: { ...(process.env as Record<string, string>), ...env },
  });
}

/**
 * A browser as its user has it: pages behind others are hidden and slowed. Those that the runner starts itself believe to
 * be in front, all of them.
 */
export async function withPlainBrowser<T>(
  profile: string,
  work: (context: BrowserContext) => Promise<T>,
): Promise<T> {
  const own = [`--user-data-dir=${profile}`, '--headless=new', '--remote-debugging-port=0'];
  const child = spawn('/usr/bin/chromium', [...FLAGS, ...own, '--window-size=1280,900', 'about:blank'], {
    stdio: 'ignore',
    detached: true,
  });
  const ended = new Promise((done) => child.once('exit', done));
  try {
    // The browser writes the port that it was given, then listens on it.
    const told = join(profile, 'DevToolsActivePort');
    while (!existsSync(told) || !readFileSync(told, 'utf8').includes('\n'))
      await new Promise((done) => setTimeout(done, 100));
    const [port] = readFileSync(told, 'utf8').split('\n');
    const browser = await chromium.connectOverCDP(`http://127.0.0.1:${port}`, { noDefaults: true });
    const [context] = browser.contexts();
    if (!context) throw new Error('The browser has no window.');
    return await work(context);
  } finally {
    // All of its processes: one that is left writes into the profile that is to be removed.
    if (child.pid) process.kill(-child.pid, 'SIGKILL');
    await ended;
  }
}
