import type { JobKind, JobSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { LEASES } from './lease';
import { order, withdraw } from './queue';

/**
 * A job is abandoned when nobody holds the lease of its subject although it is said to run; or when it waits, and no order for
 * it waits in the queue. An order is written a moment after its job, so a job that waits is given some seconds.
 */
const ABANDONED = `
  select j.id, j.subject, j.kind, j.state from job j
  where (j.state = 'running' or (j.state = 'waiting' and j.updated_at < now() - interval '4 seconds' and not exists (
    select 1 from pgboss.job q
    where q.name = j.kind and q.data->>'subject' = j.subject and q.state in ('created', 'retry'))))
  and case when pg_try_advisory_lock(${LEASES}, hashtext(j.subject))
    then pg_advisory_unlock(${LEASES}, hashtext(j.subject)) else false end`;

type Row = { id: number; subject: JobSubject; kind: JobKind; state: string };

/**
 * Orders again what was abandoned: by a worker that was killed or lost its database, or by a server that was killed between
 * writing a job and ordering it.
 * @returns the subjects whose jobs were ordered again
 */
export async function orderAbandoned(): Promise<JobSubject[]> {
  const connection = (await unitOfWork()).getConnection();
  const rows = await connection.execute<Row[]>(ABANDONED);
  const ordered: JobSubject[] = [];
  for (const { id, subject, kind, state } of rows) {
    // Of several workers that see it, the one whose update finds the old state orders it.
    const taken = await connection.execute<{ id: number }[]>(
      `update job set state = 'waiting', step = 'Waiting for a worker', updated_at = now() where id = ? and state = ? returning id`,
      [id, state],
    );
    if (taken.length === 0) continue;
    await withdraw(kind, subject);
    await order(kind, subject);
    ordered.push(subject);
  }
  return ordered;
}
