import { problemOf } from '@/core/base/problem';
import { Job, type JobKind, type JobSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';
import { Cancelled } from '../media/ffmpeg';
import { log } from '../process/log';
import { lease } from './lease';

/** Tells people how far a job is. @param progress 0…1; never goes back */
export type Report = (step: string, progress: number) => void;
export type Outcome = 'done' | 'failed' | 'cancelled';

/** A cancelled job is seen this soon. */
const LOOK_EVERY_MS = 300;

/**
 * Does the work of a job under the lease of its subject, and keeps its row. Nothing happens when another worker is at it, or when it
 * is over already.
 * @param work must be able to begin again from nothing; the signal is aborted when somebody cancels or the lease is lost
 * @param settle writes what follows from the outcome, together with the job's own row
 */
export async function runJob<T>(
  kind: JobKind,
  subject: JobSubject,
  work: (report: Report, signal: AbortSignal) => Promise<T>,
  settle: (outcome: Outcome, result: T | null) => Promise<void>,
): Promise<void> {
  const held = await lease(subject);
  if (!held) return;
  try {
    const em = await unitOfWork();
    const job = await em.findOne(Job, { subject, kind });
    if (!job || job.state === 'cancelled' || job.state === 'done') return;
    job.state = 'running';
    job.startedAt = new Date();
    await em.flush();
    const cancelling = new AbortController();
    const look = async () => {
      const fresh = await (await unitOfWork()).findOne(Job, { id: job.id });
      if (fresh?.state === 'cancelled') cancelling.abort();
    };
    // A database that is away ends the job by its lease; these two need not say it as well.
    const watch = setInterval(() => void look().catch(() => undefined), LOOK_EVERY_MS);
    const report: Report = (step, progress) => {
      job.step = step;
      job.progress = Math.max(job.progress, progress);
      void unitOfWork()
        .then((own) =>
          own.nativeUpdate(Job, { id: job.id, state: 'running' }, { step, progress: job.progress }),
        )
        .catch(() => undefined);
    };
    let outcome: Outcome = 'done';
    let result: T | null = null;
    try {
      result = await work(report, AbortSignal.any([cancelling.signal, held.signal]));
      Object.assign(job, { state: 'done', progress: 1, step: 'Finished', problem: null });
    } catch (error) {
      // Others may have taken it over: nothing of it is ours to say any more.
      if (held.signal.aborted) throw held.signal.reason;
      if (error instanceof Cancelled || cancelling.signal.aborted) {
        outcome = 'cancelled';
        Object.assign(job, { state: 'cancelled', step: 'Cancelled' });
      } else {
        outcome = 'failed';
        log().error({ err: error, subject }, `${kind} failed`);
        const { message, hint } = problemOf(error);
        Object.assign(job, {
          state: 'failed',
          problem: [message, hint].filter(Boolean).join(' ').slice(0, 500),
        });
      }
    } finally {
      clearInterval(watch);
    }
    await settle(outcome, result);
    await em.flush();
  } finally {
    await held.release();
  }
}
