import { useMemo } from 'react';
import type { TakeId } from '@/core/base/ids';
import { type Cut, cutLengthUs, whereSeen } from '@/core/cut/cut';
import { headsAndTails } from '@/core/cut/heads-and-tails';
import type { EditPage } from '@/core/views/edit-page';
import type { TakePeaks } from '../player/peaks';
import type { Range } from './range';

/** So little is not worth a proposal. */
const LEAST_GAINED_US = 200_000;

/** What would be left without head and tail, which are looked for in what the cut still shows of the take at both ends. */
export function useProposed(
  cut: Cut,
  takes: EditPage['takes'],
  peaks: ReadonlyMap<TakeId, TakePeaks>,
): Range | null {
  return useMemo(() => {
    const [first, last] = [cut.steps[0]?.pieces[0], cut.steps.at(-1)?.pieces.at(-1)];
    const take = takes.find(({ id }) => id === first?.take);
    const own = take && peaks.get(take.id);
    if (!first || !last || !take || !own?.tracks.voice || last.take !== take.id) return null;
    const sound = { perSecond: own.perSecond, values: own.tracks.voice };
    const found = headsAndTails(sound, take.marksUs, take.durationUs ?? 0);
    if (!found) return null;
    const fromUs = whereSeen(cut, take.id, found.inUs) ?? 0;
    const toUs = whereSeen(cut, take.id, found.outUs) ?? cutLengthUs(cut);
    const gainedUs = fromUs + cutLengthUs(cut) - toUs;
    return fromUs < toUs && gainedUs > LEAST_GAINED_US ? { fromUs, toUs } : null;
  }, [cut, takes, peaks]);
}
