import { newSegmentId } from '@/core/base/ids';
import { afterFailure } from '@/core/recording/replacement';
import type { SegmentHead, TakeEvent } from '@/core/recording/take';
import { line } from './journal-file';
import { elapsed, type Recording, takeTime } from './recording';
import type { Segment } from './segment';
import { openSegmentChain } from './segment-chain';

export type EventsTrack = {
  readonly add: (kind: TakeEvent['kind'], data: TakeEvent['data'], atUs: number) => void;
  readonly close: () => Promise<void>;
};

/** What happens to the take itself happens while its clock stands, or at its very end. */
const OF_THE_TAKE: ReadonlySet<TakeEvent['kind']> = new Set([
  'pause',
  'resume',
  'sleep',
  'limit',
  'schedule',
]);

/** The events track: JSON lines. */
export function openEvents(recording: Recording): EventsTrack {
  const closing: Promise<void>[] = [];
  const failuresUs: number[] = [];
  const nextIndex = () => recording.nextIndex('events');
  /** The events of a file that cannot be written go on in another one. */
  const open = (startUs: number): Segment => {
    const head: SegmentHead = {
      id: newSegmentId(),
      track: 'events',
      index: nextIndex(),
      startUs,
      configuration: { type: 'events' },
      encoderDelayUs: 0,
      offsetUs: 0,
      offsetHow: 'declared',
      continues: false,
    };
    return openSegmentChain(head, recording.files, nextIndex, () => {
      failuresUs.push(performance.now() * 1000);
      // Where no file can be written at all the other tracks have said so.
      if (afterFailure(failuresUs, false) === 'end') return;
      closing.push(segment.close());
      segment = open(latestUs);
    });
  };
  let latestUs = 0;
  let segment = open(0);
  let seq = 0;
  return {
    add: (kind, data, atUs) => {
      const tUs = OF_THE_TAKE.has(kind) ? elapsed(recording, atUs) : takeTime(recording, atUs);
      if (tUs === null || tUs < 0) return;
      latestUs = tUs;
      const event: TakeEvent = { v: 1, seq: seq++, tUs, kind, data };
      segment.add({ data: line(JSON.stringify(event)), key: true, tUs, durationUs: 0 });
    },
    close: async () => {
      await Promise.all([...closing, segment.close()]);
    },
  };
}
