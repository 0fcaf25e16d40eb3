'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { StoreId } from '@/core/base/ids';
import type { Facts } from '@/core/findings/preflight';
import type { StoreInput, StoreView } from '@/core/rig/final-store';
import { useRoom } from '../lesson/lesson-room';
import { fetchJson } from '../wire/fetch-json';

const KEY = ['stores'];
const LOOK_EVERY_MS = 20_000;

/** The folders that may get copies of finished files, as they are found now. */
export function useStores() {
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: KEY,
    queryFn: () => fetchJson<StoreView[]>('GET', '/api/stores'),
    refetchInterval: LOOK_EVERY_MS,
  });
  return {
    stores: data ?? null,
    add: async (input: StoreInput): Promise<StoreView> => {
      const added = await fetchJson<StoreView>('POST', '/api/stores', input);
      await queries.invalidateQueries({ queryKey: KEY });
      return added;
    },
    /** Copies that are there stay there. */
    forget: async (id: StoreId): Promise<void> => {
      await fetchJson('DELETE', `/api/stores/${id}`);
      await queries.invalidateQueries({ queryKey: KEY });
    },
  };
}

/** The store that the rig names. */
export function useFinalStore(): Facts['store'] {
  const { rig } = useRoom();
  const { stores } = useStores();
  const { final } = rig.stores;
  if (final === 'studio' || !stores) return null;
  return stores.find(({ id }) => id === final) ?? 'gone';
}
