import { z } from 'zod';
import { MediaRole } from '../messages';

/** Parts of the recorder that tests have fail in the running application, as practice devices do. */
const Breakable = z.enum(['encoder', 'configure', 'flush', 'muxer', 'file']);
type Breakable = z.infer<typeof Breakable>;

/** An order to the recorder of every page of this browser. */
export const RecorderFaultOrder = z.object({
  role: MediaRole,
  part: Breakable,
  /** How often in a row it fails; 0 makes it well again. */
  times: z.int().min(0).max(1000),
});
export type RecorderFaultOrder = z.infer<typeof RecorderFaultOrder>;

/** The channel on which the orders go, from any page of the studio. */
export const RECORDER_FAULT_CHANNEL = 'recorder-faults';

const left = new Map<string, number>();
const keyOf = (role: string, part: Breakable) => `${role} ${part}`;

export function listenForFaultOrders(): void {
  new BroadcastChannel(RECORDER_FAULT_CHANNEL).onmessage = ({ data }: MessageEvent<unknown>) => {
    const order = RecorderFaultOrder.safeParse(data);
    if (order.success) left.set(keyOf(order.data.role, order.data.part), order.data.times);
  };
}

/** Whether this part of a track was ordered to fail now; each call uses one of the times up. */
export function mustFail(role: string, part: Breakable): boolean {
  const key = keyOf(role, part);
  const times = left.get(key) ?? 0;
  if (times === 0) return false;
  left.set(key, times - 1);
  return true;
}
