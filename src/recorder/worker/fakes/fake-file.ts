import type { SegmentHead } from '@/core/recording/take';
import type { Fault } from '../fault';
import type { Packet, Segment, TakeFiles } from '../segment';

/** A segment's file in memory, which fails when it is told to. */
export type FakeFile = {
  head: SegmentHead;
  packets: Packet[];
  closed: boolean;
  fail: (fault: Fault) => void;
};

export function fakeFiles() {
  const opened: FakeFile[] = [];
  const open = (
    head: SegmentHead,
    _files: TakeFiles,
    _nextIndex: () => number,
    onFault: (fault: Fault) => void,
  ): Segment => {
    let lost = 0;
    let failed = false;
    const file: FakeFile = {
      head,
      packets: [],
      closed: false,
      fail: (fault) => {
        failed = true;
        onFault(fault);
      },
    };
    opened.push(file);
    return {
      head,
      bytes: () => file.packets.length,
      unwritten: () => 0,
      lost: () => lost,
      add: (packet) => {
        if (file.closed) throw new Error('A packet came after its file was closed.');
        if (failed) lost++;
        else file.packets.push(packet);
      },
      close: async () => {
        file.closed = true;
      },
    };
  };
  return { open, opened };
}
