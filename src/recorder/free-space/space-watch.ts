import { type Room, roomFor } from '@/core/base/free-space';
import { openSyncFile } from '../worker/journal-file';
import { measureRoom } from './measure-space';

/** Room that is held back, so that a full storage can still take the last fifth of a second and the take's end. */
const RESERVE = 'reserve';
const RESERVE_BYTES = 2_000_000;
const PROBE = 'probe';
const LOOK_MS = 2000;
/** Before there is anything to measure: less than any take with a picture needs. */
const LEAST_BYTES_PER_SECOND = 50_000;
/** Room for longer than this is not looked into: one question instead of a dozen. */
const MOST_S = 10 * 3600;

export type RoomWatch = {
  /** How long the storage takes what is recorded; null until it was looked at. */
  readonly room: () => Room | null;
  /** Gives the room that was held back to whoever must still write. */
  readonly giveReserve: () => void;
  readonly close: () => Promise<void>;
};

/**
 * Watches the room in the browser's storage while a take is recorded.
 * @param bytesPerSecond that the take has needed so far
 * @param onNone called once, when the take must stop so that all of it can be kept
 * @throws when there is not even room for the reserve
 */
export async function watchRoom(
  folder: FileSystemDirectoryHandle,
  bytesPerSecond: () => number,
  onNone: () => void,
): Promise<RoomWatch> {
  const open = async (name: string) => openSyncFile(await folder.getFileHandle(name, { create: true }));
  const reserve = await open(RESERVE);
  try {
    reserve.write(new Uint8Array(RESERVE_BYTES), { at: 0 });
  } catch (error) {
    reserve.close();
    throw error;
  }
  let room: Room | null = null;
  let told = false;
  const look = async () => {
    // Opened again each time: a file that is open keeps the room it once was given.
    const probe = await open(PROBE);
    const rate = Math.max(LEAST_BYTES_PER_SECOND, bytesPerSecond());
    room = roomFor(measureRoom(probe, MOST_S * rate), rate);
    probe.close();
    if (room.state !== 'none' || told) return;
    told = true;
    onNone();
  };
  let looking = Promise.resolve();
  const timer = setInterval(() => {
    looking = look().catch(() => undefined);
  }, LOOK_MS);
  return {
    room: () => room,
    giveReserve: () => reserve.truncate(0),
    close: async () => {
      clearInterval(timer);
      await looking;
      reserve.close();
      for (const name of [RESERVE, PROBE]) await folder.removeEntry(name).catch(() => undefined);
    },
  };
}
