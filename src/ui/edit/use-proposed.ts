import { useMemo } from 'react';
import { type Cut, cutLengthUs } from '@/core/cut/cut';
import { type HeardTake, headAndTail } from '@/core/cut/proposals';
import type { Range } from './range';

/** So little is not worth a proposal. */
const LEAST_GAINED_US = 200_000;

/** What would be left without head and tail; null where that would gain nothing. */
export function useProposed(cut: Cut, heard: readonly HeardTake[]): Range | null {
  return useMemo(() => {
    const ends = headAndTail(cut, heard);
    const lengthUs = cutLengthUs(cut);
    const fromUs = ends.find(({ kind }) => kind === 'head')?.toUs ?? 0;
    const toUs = ends.find(({ kind }) => kind === 'tail')?.fromUs ?? lengthUs;
    return fromUs < toUs && fromUs + lengthUs - toUs > LEAST_GAINED_US ? { fromUs, toUs } : null;
  }, [cut, heard]);
}
