import PgBoss from 'pg-boss';
import type { JobKind, JobSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { config } from '../process/config';
import { log } from '../process/log';

export type JobOrder<S extends JobSubject = JobSubject> = { subject: S };
const KINDS: readonly JobKind[] = ['finish-take', 'render-parcel', 'make-format', 'copy-files', 'bring-file'];

const shared = globalThis as { __boss?: Promise<PgBoss> };

/** The web process only sends: supervision and scheduling are the workers'. */
export function queue(role: 'web' | 'worker' = 'web'): Promise<PgBoss> {
  shared.__boss ??= (async () => {
    const boss = new PgBoss({
      connectionString: config().databaseUrl,
      application_name: role,
      supervise: role === 'worker',
      schedule: false,
      max: 4,
    });
    boss.on('error', (error) => log().error({ err: error }, 'job queue'));
    await boss.start();
    for (const name of KINDS)
      await boss.createQueue(name, {
        name,
        policy: 'standard',
        retryLimit: 3,
        retryDelay: 2,
        expireInSeconds: 4 * 3600,
      });
    return boss;
  })();
  return shared.__boss;
}

/** Takes back what a worker that is gone still seems to work on. */
export async function withdraw(kind: JobKind, subject: JobSubject): Promise<void> {
  const connection = (await unitOfWork()).getConnection();
  const taken = await connection.execute<{ id: string }[]>(
    `select id from pgboss.job where name = ? and state = 'active' and data->>'subject' = ?`,
    [kind, subject],
  );
  const boss = await queue();
  for (const { id } of taken) await boss.cancel(kind, id);
}

/** Sends a job unless the same one already waits or runs. */
export async function order(kind: JobKind, subject: JobSubject): Promise<void> {
  const boss = await queue();
  await boss.send(kind, { subject } satisfies JobOrder, { singletonKey: subject });
}
