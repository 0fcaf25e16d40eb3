import { cpSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from 'pg';
import { freePort } from '../../scripts/cluster.mjs';
import { startStudio } from '../../scripts/studio.mjs';
import { withDatabase } from '../../scripts/with-database.mjs';

export type OwnStudio = {
  url: string;
  data: string;
  takes: string;
  rows: <T>(sql: string, values?: unknown[]) => Promise<T[]>;
};

const PREVIOUS = join(import.meta.dirname, '..', 'previous-release');

/** What the previous release left on the server: a lesson with a finished take, and a lesson whose take is still in a browser. */
export const PREVIOUS_TAKE = 'kwKq337agxiSv60p_RISjw';

async function query<T>(url: string, sql: string, values: unknown[] = []): Promise<T[]> {
  const client = new Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(sql, values.length > 0 ? values : undefined)).rows;
  } finally {
    await client.end();
  }
}

/**
 * Runs a studio of its own, beside the one of the other tests, on what a test has prepared.
 * @param prepare what lies in the data folder when it starts: `takes` of the previous release, its `database`
 */
export async function withStudio(
  prepare: { takes?: boolean; database?: boolean },
  work: (studio: OwnStudio) => Promise<void>,
): Promise<void> {
  await withDatabase(async ({ data, url: databaseUrl, supervisor }) => {
    const takes = join(data, 'media', 'takes');
    mkdirSync(takes, { recursive: true });
    if (prepare.takes) cpSync(join(PREVIOUS, 'takes'), takes, { recursive: true });
    if (prepare.database) await query(databaseUrl, readFileSync(join(PREVIOUS, 'database.sql'), 'utf8'));
    const port = await freePort();
    await startStudio({ supervisor, databaseUrl, data, port, demo: false });
    await work({
      url: `http://127.0.0.1:${port}`,
      data,
      takes,
      rows: (sql, values) => query(databaseUrl, sql, values),
    });
  });
}
