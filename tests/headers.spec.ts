import { readFileSync } from 'node:fs';
import { request as plainRequest } from 'node:http';
import { expect } from './support/studio';
import { test } from './support/test';

/** A request with headers that a browser would not let anyone set. */
function raw(
  base: string,
  path: string,
  headers: Record<string, string>,
): Promise<{ status: number; body: string }> {
  return new Promise((resolve, reject) => {
    const { hostname, port } = new URL(base);
    plainRequest({ hostname, port, path, headers }, (response) => {
      let body = '';
      response.on('data', (data) => {
        body += data;
      });
      response.on('end', () => resolve({ status: response.statusCode ?? 0, body }));
    })
      .on('error', reject)
      .end();
  });
}

/** Every address the build knows, with something in the place of its parameters. */
function allRoutes(): string[] {
  const manifest = JSON.parse(readFileSync('.next/app-path-routes-manifest.json', 'utf8')) as Record<
    string,
    string
  >;
  const pages = JSON.parse(readFileSync('.next/server/pages-manifest.json', 'utf8')) as Record<
    string,
    string
  >;
  const routes = [
    ...Object.values(manifest),
    ...Object.keys(pages).filter((route) => route.startsWith('/api/')),
  ];
  const filled = routes.map((route) =>
    route.replace(/\/\[\[\.\.\.\w+\]\]/, '').replace(/\[\w+\]/g, 'A'.repeat(22)),
  );
  return [...new Set(filled)].filter((route) => !route.startsWith('/_'));
}

test('every route and every worker script carries its headers, and pages are isolated under a strict policy', async ({
  studio: page,
  request,
}) => {
  const scripts: string[] = [];
  page.on('worker', (worker) => scripts.push(new URL(worker.url()).pathname));
  await page.goto('/');
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
  await page.getByRole('button', { name: 'New lesson' }).click();
  await expect(page.getByRole('img', { name: 'Live camera' })).toBeVisible();
  // The recorder's, the uploader's, the practice desk's and the previews' workers.
  await expect.poll(() => scripts.length).toBeGreaterThanOrEqual(5);

  const routes = allRoutes();
  expect(routes).toContain('/api/health');
  expect(routes).toContain(`/api/media/${'A'.repeat(22)}/${'A'.repeat(22)}`);
  for (const path of [...routes, ...scripts, '/no/such/page', '/api/none']) {
    const headers = (await request.get(path, { maxRedirects: 0 })).headers();
    expect(headers, path).toMatchObject({
      'cross-origin-opener-policy': 'same-origin',
      'cross-origin-embedder-policy': 'require-corp',
      'cross-origin-resource-policy': 'same-origin',
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'no-referrer',
    });
    expect(headers['permissions-policy'], path).toContain('display-capture=(self)');
    const policy = headers['content-security-policy'] ?? '';
    expect(policy, path).toContain("frame-ancestors 'none'");
    expect(policy, path).not.toMatch(/'unsafe-eval'|script-src[^;]*unsafe-inline/);
    if (path.startsWith('/api/')) expect(policy, path).toContain("default-src 'none'");
  }
  const nonceOf = async () =>
    /nonce-([^']+)/.exec((await request.get('/')).headers()['content-security-policy'] ?? '')?.[1];
  expect(await nonceOf()).not.toBe(await nonceOf());
});

test('foreign hosts and origins are refused, and bad input is explained where it was made', async ({
  baseURL,
  request,
}) => {
  const base = baseURL ?? '';
  const host = new URL(base).host;
  for (const path of ['/', '/api/health']) {
    expect((await raw(base, path, { host: 'seeds.example' })).status, path).toBe(403);
    expect((await raw(base, path, { host, origin: 'https://seeds.example' })).status, path).toBe(403);
    expect((await raw(base, path, { host, origin: base })).status, path).toBe(200);
  }
  const empty = await request.post('/api/lessons', { data: { title: '  ' } });
  expect(empty.status()).toBe(400);
  expect(await empty.json()).toEqual({
    code: 'bad-input',
    message: 'title: a lesson needs a title.',
    field: 'title',
  });
  const missing = await request.patch('/api/lessons/AAAAAAAAAAAAAAAAAAAAAA', { data: { title: 'x' } });
  expect([missing.status(), (await missing.json()).code]).toEqual([404, 'not-found']);
});
