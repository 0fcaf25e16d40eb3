import PgBoss from 'pg-boss';
import type { TakeId } from '@/core/ids';
import { config } from '../config';
import type { JobKind } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { log } from '../log';

export type JobOrder = { takeId: TakeId };

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
    await boss.createQueue('finish-take', {
      name: 'finish-take',
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
export async function withdraw(kind: JobKind, takeId: TakeId): Promise<void> {
  const connection = (await unitOfWork()).getConnection();
  const taken = await connection.execute<{ id: string }[]>(
    `select id from pgboss.job where name = ? and state = 'active' and data->>'takeId' = ?`,
    [kind, takeId],
  );
  const boss = await queue();
  for (const { id } of taken) await boss.cancel(kind, id);
}

/** Sends a job unless the same one already waits or runs. */
export async function order(kind: JobKind, takeId: TakeId): Promise<void> {
  const boss = await queue();
  await boss.send(kind, { takeId } satisfies JobOrder, { singletonKey: takeId });
}
