import type { Problem } from '@/core/base/problem';
import type { SourceState } from '@/core/findings/preflight';
import type { MediaRole } from '@/recorder/messages';

type States = Partial<Record<MediaRole, SourceState>>;

const STILL_OPENING: Problem = {
  code: 'still-opening',
  message: 'Not recorded yet: the source is still opening.',
  hint: 'It joins the take as soon as it is open. The other tracks are recorded.',
};

/** What a take would miss at this moment, and why: sources that failed, and those that are still opening. */
export const notRecorded = (states: States): { role: MediaRole; problem: Problem }[] =>
  (Object.entries(states) as [MediaRole, SourceState][]).flatMap(([role, { state, problem }]) => {
    if (state === 'failed' && problem) return [{ role, problem }];
    return state === 'opening' ? [{ role, problem: STILL_OPENING }] : [];
  });

/** Sources on their way. */
export const openingOf = (states: States): MediaRole[] =>
  (Object.keys(states) as MediaRole[]).filter((role) => states[role]?.state === 'opening');
