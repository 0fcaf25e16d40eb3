import { resolve } from 'node:path';
import { z } from 'zod';
import { hostForms } from './origin';

const Environment = z.object({
  DATABASE_URL: z.string().startsWith('postgresql://'),
  DATA_DIR: z.string().default('.data'),
  PORT: z.coerce.number().int().default(4620),
  /** Further names under which the studio may be reached, for a reverse proxy in front of it: "studio.example:443,…". */
  ALLOWED_HOSTS: z.string().default(''),
  /** Uploads are refused while less than this is free: the database on the same disk must live on. */
  LEAST_FREE_BYTES: z.coerce.number().int().default(300_000_000),
  /** Opens what benchmarks measure against; nobody else needs it. */
  LAB: z.enum(['0', '1']).default('0'),
  /** Where share pages are served, and the address that is written into links when something stands in front of it. */
  SHARE_HOST: z.string().default('127.0.0.1:4621'),
  SHARE_URL: z.string().optional(),
  LOG_LEVEL: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent']).default('warn'),
});

export type Config = {
  databaseUrl: string;
  dataDir: string;
  allowedHosts: ReadonlySet<string>;
  leastFreeBytes: number;
  lab: boolean;
  shareHost: string;
  shareUrl: string;
  logLevel: string;
};

let read: Config | undefined;

/**
 * The settings of this process, read from the environment once.
 * @throws {z.ZodError} when the process was started without `npm start` and lacks DATABASE_URL
 */
export function config(): Config {
  if (read) return read;
  const env = Environment.parse(process.env);
  const own = ['127.0.0.1', 'localhost', '[::1]'].map((name) => `${name}:${env.PORT}`);
  const more = env.ALLOWED_HOSTS.split(',').filter(Boolean);
  read = {
    databaseUrl: env.DATABASE_URL,
    dataDir: resolve(env.DATA_DIR),
    allowedHosts: new Set([...own, ...more].flatMap(hostForms)),
    leastFreeBytes: env.LEAST_FREE_BYTES,
    lab: env.LAB === '1',
    shareHost: env.SHARE_HOST,
    shareUrl: (env.SHARE_URL ?? `http://${env.SHARE_HOST}`).replace(/\/$/, ''),
    logLevel: env.LOG_LEVEL,
  };
  return read;
}
