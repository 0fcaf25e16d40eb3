import { agoText } from '@/core/base/ago';
import { bytesText, clockText } from '@/core/base/figures';
import type { Problem } from '@/core/base/problem';
import { frameOutcome } from '@/core/recording/frame-outcome';
import { gapSentence } from '@/core/recording/gaps';
import type { JobView, TakePage } from '@/core/views/take-page';
import type { VerdictKind } from '../page/verdict';

/** The one sentence about a take. */
export function takeVerdict(
  take: TakePage,
  job: JobView | null,
  stuck: Problem | null,
): { kind: VerdictKind; sentence: string; detail?: string } {
  const arriving = take.state === 'recording' || take.state === 'uploading';
  if (arriving && stuck)
    return {
      kind: 'warn',
      sentence: `The take is kept in this browser. ${stuck.message}`,
      detail: stuck.hint ?? 'Uploading continues automatically.',
    };
  if (arriving && take.arrival?.offered)
    return {
      kind: 'warn',
      sentence: `The browser that recorded this take was last heard from ${agoText(take.arrival.lastHeardAt, Date.now())}.`,
      detail: `${bytesText(take.arrival.bytes)} have arrived. Open the studio in that browser to send the rest, or finish the take with what is here. The rest is added if it arrives later.`,
    };
  if (arriving)
    return {
      kind: 'good',
      sentence: 'The take is uploading from the browser.',
      detail: 'It is kept there until all of it has arrived.',
    };
  if (job?.state === 'waiting' || job?.state === 'running') {
    const left = job.secondsLeft === null ? '' : `, about ${Math.max(1, Math.round(job.secondsLeft))} s left`;
    return {
      kind: 'good',
      sentence: `Safe on the server. ${job.step} …`,
      detail: `${Math.round(job.progress * 100)} %${left}. You can watch it now.`,
    };
  }
  if (job?.state === 'cancelled')
    return {
      kind: 'warn',
      sentence: 'Processing was cancelled.',
      detail: 'The recording is safe; there is no plain video yet.',
    };
  if (job?.state === 'failed')
    return {
      kind: 'stop',
      sentence: 'The plain video could not be made.',
      detail: job.problem ?? 'Everything recorded is kept.',
    };
  const screen = take.ledger.screen;
  if (take.partial)
    return {
      kind: 'warn',
      sentence: `Finished with what had arrived: ${clockText(take.durationUs ?? 0)}.`,
      detail: 'If the browser that recorded it sends the rest, the take is finished again with all of it.',
    };
  if (take.cutOff)
    return {
      kind: 'warn',
      sentence: `Recovered: the recording was cut off after ${clockText(take.durationUs ?? 0)}.`,
      detail: 'At most its last second is missing.',
    };
  if (take.imported)
    return { kind: 'good', sentence: 'Imported.', detail: 'The file itself is kept with the take.' };
  if (!screen) return { kind: 'good', sentence: 'Recorded.' };
  const gaps = take.facts?.gaps ?? [];
  if (gaps.length > 0)
    return {
      kind: 'warn',
      sentence: gaps.map(gapSentence).slice(0, 3).join(' '),
      detail: 'Everything else is complete.',
    };
  const { asAsked, sentence } = frameOutcome(screen);
  return asAsked
    ? { kind: 'good', sentence }
    : {
        kind: 'warn',
        sentence,
        detail: 'The machine was too slow for this rig: lower the frame rate or the picture size.',
      };
}
