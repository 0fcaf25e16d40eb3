import { readFile } from 'node:fs/promises';
import type { SegmentId, TakeId } from '@/core/base/ids';
import type { Packet } from '@/core/recording/packet';
import { segmentPath } from '../media/media-folder';

/** The packets of segments that continue one another: `µs bytes key`, a line a packet. The last line of one that was cut off may be torn. */
export async function readPackets(take: TakeId, run: readonly { id: SegmentId }[]): Promise<Packet[]> {
  const packets: Packet[] = [];
  for (const { id } of run) {
    const text = await readFile(segmentPath(take, id, 'index'), 'utf8').catch(() => '');
    for (const line of text.split('\n')) {
      const [us, bytes, key] = line.split(' ');
      if (key !== undefined) packets.push({ us: Number(us), bytes: Number(bytes), key: key === '1' });
    }
  }
  return packets;
}
