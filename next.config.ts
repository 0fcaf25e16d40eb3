import type { NextConfig } from 'next';
import { HEADERS } from './src/server/http/headers';

const list = (headers: Record<string, string>) =>
  Object.entries(headers).map(([key, value]) => ({ key, value }));

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  agentRules: false,
  devIndicators: false,
  // Titles come with their page, for every reader, and never a moment after it: a page without a title has no name.
  htmlLimitedBots: /./,
  // `npm test` checks all types; whoever only starts the studio need not wait for it.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    '@mikro-orm/core',
    '@mikro-orm/postgresql',
    '@mikro-orm/migrations',
    'pg',
    'pg-boss',
    'pino',
    '@tus/server',
    '@tus/file-store',
  ],
  headers: async () => [
    { source: '/api/:path*', headers: list(HEADERS.api) },
    { source: '/_next/:path*', headers: list(HEADERS.script) },
    { source: '/favicon.ico', headers: list(HEADERS.script) },
  ],
  // What a browser asks for when it shows something that names no icon, such as a file.
  rewrites: async () => [{ source: '/favicon.ico', destination: '/icon.svg' }],
};

export default config;
