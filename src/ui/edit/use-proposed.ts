import { useMemo } from 'react';
import type { TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, whereSeen } from '@/core/cut/cut';
import { headsAndTails } from '@/core/cut/heads-and-tails';
import type { EditPage } from '@/core/views/edit-page';
import type { TakePeaks } from '../player/peaks';
import type { Range } from './range';

/** So little is not worth a proposal. */
const LEAST_GAINED_US = 200_000;

/** What is left of a take without head and tail; null where nothing would be gained, or its waveform is not there. */
export function trimmedTake(
  { marksUs, durationUs }: EditPage['takes'][number],
  peaks: TakePeaks | undefined,
): { inUs: number; outUs: number } | null {
  if (!peaks?.tracks.voice) return null;
  const voice = { perSecond: peaks.perSecond, values: peaks.tracks.voice };
  return headsAndTails(voice, marksUs, durationUs ?? 0);
}

/** What would be left without head and tail, which are looked for in what the cut still shows of the take at both ends. */
export function useProposed(
  cut: Cut,
  takes: EditPage['takes'],
  peaks: ReadonlyMap<TakeId, TakePeaks>,
): Range | null {
  return useMemo(() => {
    const [first, last] = [cut.steps[0]?.pieces[0], cut.steps.at(-1)?.pieces.at(-1)];
    const take = takes.find(({ id }) => id === first?.take);
    if (!first || !last || !take || last.take !== take.id) return null;
    const found = trimmedTake(take, peaks.get(take.id));
    if (!found) return null;
    const fromUs = whereSeen(cut, take.id, found.inUs) ?? 0;
    const toUs = whereSeen(cut, take.id, found.outUs) ?? cutLengthUs(cut);
    const gainedUs = fromUs + cutLengthUs(cut) - toUs;
    return fromUs < toUs && gainedUs > LEAST_GAINED_US ? { fromUs, toUs } : null;
  }, [cut, takes, peaks]);
}
