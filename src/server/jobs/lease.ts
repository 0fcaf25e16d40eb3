import { Client } from 'pg';
import { config } from '../process/config';

/** The right to work on a take or a parcel, or to use one of a machine's places for renders. PostgreSQL takes it back in the moment the process, or its connection, is gone. */
export type Lease = {
  /** Aborted when the database took the lease back: from then on another worker may be at work. */
  readonly signal: AbortSignal;
  readonly release: () => Promise<void>;
};

/** First half of the locks' key, so that no other advisory lock of the database meets ours. */
export const LEASES = 0x7a6b;
const PROBE_MS = 2000;
const ANSWER_MS = 5000;

/**
 * Takes a lease: a session-level advisory lock on a connection of its own.
 * @returns null when another worker holds it
 */
export async function lease(what: string): Promise<Lease | null> {
  const lost = new AbortController();
  const client = new Client({
    connectionString: config().databaseUrl,
    application_name: 'lease',
    keepAlive: true,
    query_timeout: ANSWER_MS,
  });
  const onLost = () => lost.abort(new Error('The database is gone, and with it the right to go on working.'));
  client.on('error', onLost);
  client.on('end', onLost);
  await client.connect();
  const { rows } = await client.query('select pg_try_advisory_lock($1, hashtext($2)) as held', [
    LEASES,
    what,
  ]);
  if (rows[0]?.held !== true) {
    client.off('end', onLost);
    await client.end();
    return null;
  }
  // A database that is there but does not answer gives no sign alone.
  const probe = setInterval(() => client.query('select 1').catch(onLost), PROBE_MS);
  return {
    signal: lost.signal,
    release: async () => {
      clearInterval(probe);
      client.off('end', onLost);
      await client.end().catch(() => undefined);
    },
  };
}
