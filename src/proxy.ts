import { randomBytes } from 'node:crypto';
import { type NextRequest, NextResponse } from 'next/server';
import { pageHeaders } from '@/server/http/headers';
import { config as settings } from '@/server/process/config';
import { FOREIGN_REQUEST, isOwnRequest } from '@/server/process/origin';

/** Pages only. Requests to /api guard themselves: here their bodies would be buffered and cut at 10 MB. */
export const config = { matcher: ['/((?!api/|_next/|favicon.ico).*)'] };

export function proxy(request: NextRequest) {
  const nonce = randomBytes(16).toString('base64');
  const headers = pageHeaders(nonce, process.env.NODE_ENV === 'development');
  if (!isOwnRequest(request.headers.get('host'), request.headers.get('origin'), settings().allowedHosts))
    return NextResponse.json(FOREIGN_REQUEST, { status: 403, headers });
  const forward = new Headers(request.headers);
  forward.set('x-nonce', nonce);
  // The framework reads the nonce for its own scripts from the policy of the request.
  forward.set('content-security-policy', headers['Content-Security-Policy'] ?? '');
  const response = NextResponse.next({ request: { headers: forward } });
  for (const [name, value] of Object.entries(headers)) response.headers.set(name, value);
  return response;
}
