import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { resolve } from 'node:path';
import send from 'send';
import { ShareToken } from '@/core/base/ids';
import { log } from '../process/log';
import { nothingPage, sharePage } from './page';
import { sharedMedia } from './shared-media';

/** Headers of everything that strangers may ask for. No script but the page's own, nothing from elsewhere, in no frame. */
const HEADERS: Record<string, string> = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'X-Robots-Tag': 'noindex, nofollow',
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Permissions-Policy': 'camera=(), microphone=(), display-capture=(), geolocation=()',
  'Cache-Control': 'private, no-store',
};
const policy = (nonce: string): string =>
  [
    "default-src 'none'",
    "media-src 'self'",
    "connect-src 'self'",
    "font-src 'self'",
    `style-src 'nonce-${nonce}'`,
    `script-src 'nonce-${nonce}'`,
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ].join('; ');

const TYPEFACE = resolve('public/fonts/atkinson.woff2');
const PATH = /^\/s\/([A-Za-z0-9_-]{22})\/(|video|state|type\.woff2)$/;

/**
 * The listener of the share pages: `/s/TOKEN/` and what that page needs, nothing else. It shares no code with the studio's routes, so
 * that nothing of the studio can be reached by it.
 */
export const shareServer = (): Server =>
  createServer((request, response) => {
    answer(request, response).catch((error) => {
      log().error({ err: error }, 'share page');
      if (!response.headersSent) response.writeHead(500);
      response.end();
    });
  });

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  for (const [name, value] of Object.entries(HEADERS)) response.setHeader(name, value);
  const { pathname } = new URL(request.url ?? '/', 'http://share');
  if (request.method !== 'GET' && request.method !== 'HEAD') {
    response.writeHead(405, { Allow: 'GET, HEAD' }).end();
    return;
  }
  // Addresses in the page are relative to its folder.
  if (/^\/s\/[A-Za-z0-9_-]{22}$/.test(pathname)) {
    response.writeHead(308, { Location: `${pathname}/` }).end();
    return;
  }
  const [, name, part = ''] = PATH.exec(pathname) ?? [];
  const token = ShareToken.safeParse(name);
  const media = token.success ? await sharedMedia(token.data) : null;
  if (!media) return page(response, 404, nothingPage);
  if (part === 'state') {
    response.setHeader('Content-Type', 'application/json');
    response.end(JSON.stringify({ state: media.state }));
  } else if (part === 'type.woff2') file(request, response, TYPEFACE, 'font/woff2');
  else if (part === 'video') {
    if (media.path) file(request, response, media.path, media.type);
    else page(response, 404, nothingPage);
  } else page(response, 200, (nonce) => sharePage(nonce, media));
}

function page(response: ServerResponse, status: number, make: (nonce: string) => string): void {
  const nonce = randomBytes(16).toString('base64');
  response.setHeader('Content-Security-Policy', policy(nonce));
  response.writeHead(status, { 'Content-Type': 'text/html; charset=utf-8' });
  response.end(make(nonce));
}

/** With ranges (RFC 9110 section 14), so that a player can seek. */
function file(request: IncomingMessage, response: ServerResponse, path: string, type: string): void {
  response.setHeader('Content-Type', type);
  response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
  send(request, path, { dotfiles: 'allow', cacheControl: false })
    .on('error', (error) => {
      response.writeHead(error.statusCode === 416 ? 416 : 404);
      response.end();
    })
    .pipe(response);
}
