import type { TakePage } from '@/core/views/take-page';
import type { PlayerFile, PlayerTake } from './messages';

const RECORDED: readonly string[] = ['screen', 'camera', 'voice', 'app-sound'];

/**
 * The files that play a take: all tracks in one when finishing has made it (it can be sought quickly), else every segment
 * alone, which is there right after the stop.
 */
function playerFiles(take: Pick<TakePage, 'id' | 'segments' | 'facts'>): PlayerFile[] {
  const base = `/api/media/${take.id}`;
  if (take.facts) {
    const { heard = [], madeAt = '' } = take.facts;
    return [
      { url: `${base}/recorded.mkv`, track: 'by-name', without: heard, shiftUs: 0 },
      ...heard.map(
        (track): PlayerFile => ({ url: `${base}/${track}.mka?made=${madeAt}`, track, shiftUs: 0 }),
      ),
    ];
  }
  return take.segments
    .filter((segment) => RECORDED.includes(segment.track) && segment.bytes > 0)
    .map((segment) => ({
      url: `${base}/${segment.id}.media`,
      track: segment.track as Exclude<typeof segment.track, 'events'>,
      shiftUs: -segment.encoderDelayUs,
    }));
}

/** A take for the player. */
export const playerTake = (
  take: Pick<TakePage, 'id' | 'segments' | 'facts' | 'durationUs' | 'rig'>,
): PlayerTake => ({
  id: take.id,
  files: playerFiles(take),
  durationUs: take.durationUs ?? take.facts?.durationUs ?? 0,
  rate: take.rig.picture.frameRate,
});
