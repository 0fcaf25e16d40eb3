'use client';

import { useQuery } from '@tanstack/react-query';
import { z } from 'zod';
import { type Room, roomFor } from '@/core/base/free-space';
import { trackRates } from '@/core/encoding/rate';
import { browserRoom } from '@/recorder/free-space/browser-space';
import { useRoom, useSourceStates } from '../lesson/lesson-room';

const Health = z.object({ freeBytes: z.number() });

const LOOK_EVERY_MS = 20_000;

/** The most that the present rig records, bytes a second. */
export function useMostBytesPerSecond(): number {
  const { rig, session } = useRoom();
  const states = useSourceStates(session);
  return (trackRates(rig, states.screen?.size, states.camera?.size).total * 1000) / 8;
}

/** How long this browser and the studio's disk take what is recorded at a rate. */
export function useRoomLeft(bytesPerSecond: number): { browser: Room | null; server: Room | null } {
  const free = useQuery({
    queryKey: ['free-bytes'],
    refetchInterval: LOOK_EVERY_MS,
    queryFn: async () => {
      const [here, there] = await Promise.all([
        browserRoom(),
        // Also a studio that is not well answers with its free bytes.
        fetch('/api/health')
          .then(async (response) => Health.parse(await response.json()))
          .catch(() => null),
      ]);
      return {
        browser: here,
        server: there?.freeBytes ?? null,
      };
    },
  });
  const room = (bytes: number | null | undefined) =>
    bytes === null || bytes === undefined || bytesPerSecond === 0 ? null : roomFor(bytes, bytesPerSecond);
  return { browser: room(free.data?.browser), server: room(free.data?.server) };
}
