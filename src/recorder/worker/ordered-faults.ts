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

/** Parts of the recorder that are made slow on order: each frame, or each write, takes so much longer. */
const Slowable = z.enum(['compose', 'encoder', 'file']);
type Slowable = z.infer<typeof Slowable>;
export const RecorderSlowOrder = z.object({
  role: MediaRole,
  slow: Slowable,
  /** 0 makes it quick again. */
  ms: z.number().min(0).max(5000),
});
export type RecorderSlowOrder = z.infer<typeof RecorderSlowOrder>;

const slowMs = new Map<string, number>();

/** Holds this thread up for as long as was ordered, as heavy work or a slow disk would. */
export function slowDown(role: string, part: Slowable): void {
  const ms = slowMs.get(`${role} ${part}`) ?? 0;
  for (const until = performance.now() + ms; performance.now() < until; );
}

/**
 * Gives an encoder's packets on as late as was ordered, one after the other, as a slow encoder would.
 * @returns what the encoder calls, how many packets are held, and what gives on all of them at once
 */
export function openSlowOutput<Args extends unknown[]>(role: string, onOutput: (...args: Args) => void) {
  const waiting: Args[] = [];
  let timer: ReturnType<typeof setTimeout> | undefined;
  const next = () => {
    timer = undefined;
    const args = waiting.shift();
    if (args) onOutput(...args);
    wait();
  };
  const wait = () => {
    if (timer === undefined && waiting.length > 0)
      timer = setTimeout(next, slowMs.get(`${role} encoder`) ?? 0);
  };
  return {
    output: (...args: Args) => {
      if (!slowMs.get(`${role} encoder`) && waiting.length === 0) return onOutput(...args);
      waiting.push(args);
      wait();
    },
    held: () => waiting.length,
    flush: () => {
      clearTimeout(timer);
      for (const args of waiting.splice(0)) onOutput(...args);
    },
  };
}

const left = new Map<string, number>();
const keyOf = (role: string, part: Breakable) => `${role} ${part}`;

export function listenForFaultOrders(): void {
  new BroadcastChannel(RECORDER_FAULT_CHANNEL).onmessage = ({ data }: MessageEvent<unknown>) => {
    const order = RecorderFaultOrder.safeParse(data);
    if (order.success) left.set(keyOf(order.data.role, order.data.part), order.data.times);
    const slow = RecorderSlowOrder.safeParse(data);
    if (slow.success) slowMs.set(`${slow.data.role} ${slow.data.slow}`, slow.data.ms);
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
