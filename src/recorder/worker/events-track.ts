import { newSegmentId } from '@/core/base/ids';
import type { SegmentHead, TakeEvent } from '@/core/recording/take';
import { line } from './journal-file';
import { elapsed, type Recording, takeTime } from './recording';
import { openSegmentChain } from './segment-chain';

export type EventsTrack = {
  readonly add: (kind: TakeEvent['kind'], data: TakeEvent['data'], atUs: number) => void;
  readonly close: () => Promise<void>;
};

/** What happens to the take itself happens while its clock stands, or at its very end. */
const OF_THE_TAKE: ReadonlySet<TakeEvent['kind']> = new Set(['pause', 'resume', 'limit', 'schedule']);

/** The events track: JSON lines. */
export function openEvents(recording: Recording): EventsTrack {
  const head: SegmentHead = {
    id: newSegmentId(),
    track: 'events',
    index: recording.nextIndex('events'),
    startUs: 0,
    configuration: { type: 'events' },
    encoderDelayUs: 0,
    offsetUs: 0,
    offsetHow: 'declared',
    continues: false,
  };
  const segment = openSegmentChain(head, recording.files, () => recording.nextIndex('events'));
  let seq = 0;
  return {
    add: (kind, data, atUs) => {
      const tUs = OF_THE_TAKE.has(kind) ? elapsed(recording, atUs) : takeTime(recording, atUs);
      if (tUs === null) return;
      const event: TakeEvent = { v: 1, seq: seq++, tUs, kind, data };
      segment.add({ data: line(JSON.stringify(event)), key: true, tUs, durationUs: 0 });
    },
    close: () => segment.close(),
  };
}
