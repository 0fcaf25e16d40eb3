/** Response headers by class of route: the one table behind the framework's settings, the proxy and the tests. */
export type RouteClass = 'page' | 'api' | 'script';

/** Cross-origin isolation is what gives precise clocks and shared memory to the recorder. */
const EVERYWHERE: Record<string, string> = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'Permissions-Policy':
    'camera=(self), microphone=(self), display-capture=(self), screen-wake-lock=(self), autoplay=(self), geolocation=(), usb=(), payment=()',
};

export const HEADERS: Record<Exclude<RouteClass, 'page'>, Record<string, string>> = {
  api: {
    ...EVERYWHERE,
    'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'; sandbox",
  },
  // A worker's policy is that of its own script, not of the page that started it.
  script: {
    ...EVERYWHERE,
    'Content-Security-Policy':
      "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; frame-ancestors 'none'",
  },
};

/**
 * Headers of a page.
 * @param nonce fresh for each response; the only inline scripts and styles that run carry it
 * @param development the framework's reload needs eval there
 */
export function pageHeaders(nonce: string, development: boolean): Record<string, string> {
  const policy = {
    'default-src': "'self'",
    'script-src': `'self' 'nonce-${nonce}' 'wasm-unsafe-eval'${development ? " 'unsafe-eval'" : ''}`,
    'style-src': `'self' 'nonce-${nonce}'`,
    // React's style attributes; they cannot load or run anything.
    'style-src-attr': "'unsafe-inline'",
    'img-src': "'self' data: blob:",
    'media-src': "'self' blob:",
    'worker-src': "'self'",
    'connect-src': "'self'",
    'object-src': "'none'",
    'base-uri': "'none'",
    'form-action': "'self'",
    'frame-ancestors': "'none'",
  };
  const text = Object.entries(policy).map(([name, value]) => `${name} ${value}`);
  return { ...EVERYWHERE, 'Content-Security-Policy': text.join('; ') };
}
