import { setTimeout } from 'node:timers/promises';
import type { IncomingId, ParcelId, TakeId } from '@/core/base/ids';
import { pairingSentence } from '@/core/keeping/pairing';
import type { TakeFileSubject } from './db/entities';
import { orderAbandoned } from './jobs/abandoned';
import { type JobOrder, queue } from './jobs/queue';
import { tellMissed } from './lessons/scheduled';
import { sweep, sweepText } from './maintenance/sweep';
import { log } from './process/log';
import { finishOverdue } from './takes/arrival';
import { bringIncoming } from './tasks/bring-incoming';
import { copyFiles } from './tasks/copy-files';
import { finishTake } from './tasks/finish-take';
import { makeFormat } from './tasks/make-format';
import { renderParcel } from './tasks/render-parcel';

/** Looked for this often, so that a job of a killed worker runs again within seconds. */
const ABANDONED_MS = 1000;
const MISSED_MS = 5000;
const SWEEP_MS = 3_600_000;
const OVERDUE_MS = 15_000;

/** A worker process: takes jobs from the queue until it is told to stop. Any number may run, on any number of machines. */
const boss = await queue('worker');
const EACH = { pollingIntervalSeconds: 0.5, batchSize: 1 };
await boss.work<JobOrder<TakeId>>('finish-take', EACH, async ([job]) => {
  if (job) await finishTake(job.data.subject);
});
await boss.work<JobOrder<ParcelId>>('render-parcel', EACH, async ([job]) => {
  if (job) await renderParcel(job.data.subject);
});

await boss.work<JobOrder<TakeFileSubject>>('make-format', EACH, async ([job]) => {
  if (job) await makeFormat(job.data.subject);
});
await boss.work<JobOrder<TakeFileSubject>>('copy-files', EACH, async ([job]) => {
  if (job) await copyFiles(job.data.subject);
});
await boss.work<JobOrder<IncomingId>>('bring-file', EACH, async ([job]) => {
  if (job) await bringIncoming(job.data.subject);
});

/** Does something again and again, never twice at once; a database that is away is tried again the next time. */
async function often(ms: number, what: string, work: () => Promise<void>): Promise<void> {
  while (!stopped.signal.aborted) {
    await work().catch((error) => log().warn({ err: error }, what));
    await setTimeout(ms, undefined, stopped).catch(() => undefined);
  }
}
const stopped = new AbortController();
void often(ABANDONED_MS, 'looking for abandoned jobs', async () => {
  for (const subject of await orderAbandoned()) log().warn({ subject }, 'an abandoned job was ordered again');
});
void often(MISSED_MS, 'looking for takes that nobody started', tellMissed);
void often(SWEEP_MS, 'sweeping', async () => {
  const report = await sweep(true);
  const { pairing, strays, emptySegments, missing, expired } = report;
  const found = strays.length + emptySegments.length + missing.length + expired.length;
  if (found > 0 || pairingSentence(pairing)) log().warn(sweepText(report, true));
});
void often(OVERDUE_MS, 'looking for takes whose browser is silent', async () => {
  for (const take of await finishOverdue())
    log().warn({ take }, 'a take was finished with what had arrived: its browser was silent for a week');
});

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, async () => {
    stopped.abort();
    await boss
      .stop({ graceful: false, timeout: 3000 })
      .catch((error) => log().warn({ err: error }, 'stopping'));
    process.exit(0);
  });
