import { setTimeout } from 'node:timers/promises';
import type { JobView } from '@/core/views/take-page';
import { Job, type JobKind, type JobSubject } from '../db/entities';
import { unitOfWork } from '../db/orm';

const LOOK_EVERY_MS = 400;

export function jobView(job: Job, now = Date.now()): JobView {
  const { state, progress, step } = job;
  const spentS = job.startedAt ? (now - job.startedAt.getTime()) / 1000 : 0;
  const known = state === 'running' && progress > 0.05 && spentS > 1;
  const secondsLeft = known ? (spentS * (1 - progress)) / progress : null;
  return { state, progress, step, problem: job.problem ?? null, secondsLeft };
}

/** A stream of server-sent events with a job, one whenever it changed; ends when the job is over or there is none. */
export function progressStream(kind: JobKind, subject: JobSubject, signal: AbortSignal): Response {
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      let last = '';
      while (!signal.aborted) {
        const em = await unitOfWork();
        const job = await em.findOne(Job, { subject, kind });
        const text = JSON.stringify(job ? jobView(job) : null);
        if (text !== last) controller.enqueue(encoder.encode(`data: ${text}\n\n`));
        last = text;
        if (!job || (job.state !== 'waiting' && job.state !== 'running')) break;
        // Whoever listened is gone: the loop ends.
        await setTimeout(LOOK_EVERY_MS, undefined, { signal }).catch(() => undefined);
      }
      controller.close();
    },
  });
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
  });
}
