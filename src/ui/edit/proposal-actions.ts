import type { Proposal } from '@/core/cut/proposals';

/** Actions that proposals stand for, in the order in which they are offered. */
export const ACTIONS = [
  { value: 'cut', label: 'Cut' },
  { value: 'faster', label: 'Speed up' },
  { value: 'zoom', label: 'Zoom' },
] as const;
export type Action = (typeof ACTIONS)[number]['value'];

export const actionOf = ({ kind }: Proposal): Action => {
  if (kind === 'still') return 'faster';
  return kind === 'zoom' ? 'zoom' : 'cut';
};

/** How many proposals there are of each action. */
export function actionCounts(list: readonly Proposal[]): Record<Action, number> {
  const counts = { cut: 0, faster: 0, zoom: 0 };
  for (const one of list) counts[actionOf(one)]++;
  return counts;
}
