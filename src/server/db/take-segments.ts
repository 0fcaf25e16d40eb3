import type { SegmentHead, TrackKind } from '@/core/recording/take';
import type { Segment, Take } from './entities';

/** The segments of a take. @param take read with its tracks and their segments @param kind of one kind of track alone */
export const segmentsOf = (take: Take, kind?: TrackKind): Segment[] =>
  take.tracks
    .getItems()
    .filter((track) => kind === undefined || track.kind === kind)
    .flatMap((track) => track.segments.getItems());

/** The same as plain data: what the browser said of them when each began. */
export const segmentHeads = (take: Take): SegmentHead[] =>
  take.tracks.getItems().flatMap((track) =>
    track.segments
      .getItems()
      .map(({ id, index, startUs, configuration, encoderDelayUs, offsetUs, offsetHow, continues }) => ({
        ...{ id, track: track.kind, index, startUs, configuration, encoderDelayUs },
        ...{ offsetUs, offsetHow, continues },
      })),
  );

/** Bytes of a take's media files on the server. */
export const takeBytes = (take: Take, kind?: TrackKind): number =>
  segmentsOf(take, kind).reduce((sum, { bytes }) => sum + (bytes ?? 0), 0);
