import { newSegmentId } from '@/core/base/ids';
import type { SegmentHead } from '@/core/recording/take';
import type { Fault } from './fault';
import { openSegment, type Packet, type PacketMeta, type Segment, type TakeFiles } from './segment';

/** After so much of the take a segment is closed, so that the server can confirm it and the browser's storage becomes free. */
export const SEGMENT_US = 600_000_000;

/** What opens a segment's file; tests put their own in its place. */
export type OpenFile = (
  head: SegmentHead,
  files: TakeFiles,
  nextIndex: () => number,
  onFault: (fault: Fault) => void,
) => Segment;

/**
 * One unbroken run of a track's packets as a chain of segments. The encoder runs on: a segment ends before a keyframe, and the next one
 * begins with it. Put one after the other their packets are those that one long segment would have had, to the last bit.
 * @param nextIndex the track's next segment number
 * @param onFault told when the muxer or a file fails
 */
export function openSegmentChain(
  head: SegmentHead,
  files: TakeFiles,
  nextIndex: () => number,
  onFault: (fault: Fault) => void,
  segmentUs = files.segmentUs ?? SEGMENT_US,
): Segment {
  let current = openSegment(head, files, onFault);
  let closedBytes = 0;
  let closedLost = 0;
  const closing: Promise<void>[] = [];
  /** The encoder describes itself with its first packet only; each file needs it. */
  let described: PacketMeta | undefined;

  const next = (tUs: number) => {
    const before = current;
    closing.push(
      before.close().then(() => {
        closedBytes += before.bytes();
        closedLost += before.lost();
      }),
    );
    const startUs = Math.max(0, Math.round(tUs));
    current = openSegment(
      { ...head, id: newSegmentId(), index: nextIndex(), startUs, continues: true },
      files,
      onFault,
    );
  };

  return {
    head,
    bytes: () => closedBytes + current.bytes(),
    unwritten: () => current.unwritten(),
    lost: () => closedLost + current.lost(),
    add: (packet: Packet, meta?: PacketMeta) => {
      if (meta?.decoderConfig) described = meta;
      const isNew = packet.key && packet.tUs - current.head.startUs >= segmentUs;
      if (isNew) next(packet.tUs);
      current.add(packet, isNew ? described : meta);
    },
    close: async () => {
      await Promise.all([...closing, current.close()]);
    },
  };
}
