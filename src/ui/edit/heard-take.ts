import { headsAndTails } from '@/core/cut/heads-and-tails';
import type { Mark } from '@/core/cut/marks';
import type { HeardTake } from '@/core/cut/proposals';
import type { EditPage } from '@/core/views/edit-page';
import type { TakePeaks } from '../player/peaks';

/** A take with the marks that the lesson has of it and the waveform of its voice, as far as that is there. */
export const heardTake = (
  { id, durationUs, facts, hand }: EditPage['takes'][number],
  marks: readonly Pick<Mark, 'atUs'>[],
  peaks: TakePeaks | undefined,
): HeardTake => ({
  id,
  durationUs: durationUs ?? 0,
  marksUs: marks.map(({ atUs }) => atUs),
  still: facts?.still ?? [],
  hand,
  voice: peaks?.tracks.voice ? { perSecond: peaks.perSecond, values: peaks.tracks.voice } : null,
});

/** The stretch of a take without head and tail; null where nothing would be gained, or its waveform is not there. */
export const trimmedTake = ({ voice, marksUs, durationUs }: HeardTake) =>
  headsAndTails(voice, marksUs, durationUs);
