'use client';

import { useQueries } from '@tanstack/react-query';
import type { ScaleLinear } from 'd3-scale';
import { area } from 'd3-shape';
import { useMemo } from 'react';
import type { TakeId } from '@/core/base/ids';
import type { SoundKind } from '@/core/recording/take';

/** The loudest of each short stretch of a take's sounds, 0 to 255, from the take's start on. */
export type TakePeaks = {
  perSecond: number;
  tracks: Partial<Record<SoundKind, number[]>>;
  /** Of each tenth of a second, tenths of LUFS; missing in takes of before. */
  loudness?: Partial<Record<SoundKind, number[]>>;
};

/** Both sounds, from top to bottom, and the colours that they have everywhere. */
export const SOUND_TRACKS = ['voice', 'app-sound'] as const satisfies readonly SoundKind[];
/** The name of a sound's colour in the theme. */
export const soundHue = (track: SoundKind) => (track === 'voice' ? 'moss' : 'heron');
export const soundColour = (track: SoundKind) => `var(--${soundHue(track)})`;

/** The waveforms of takes, as far as they are there; those of a take that is being finished come when they are made. */
export function usePeaks(takes: readonly TakeId[]): ReadonlyMap<TakeId, TakePeaks> {
  const answers = useQueries({
    combine: dataOf,
    queries: takes.map((take) => ({
      queryKey: ['peaks', take],
      queryFn: async (): Promise<TakePeaks> => {
        const answer = await fetch(`/api/media/${take}/peaks.json`);
        if (!answer.ok) throw new Error('The waveform is not made yet.');
        return answer.json();
      },
      retry: 60,
      retryDelay: 1000,
    })),
  });
  const ids = takes.join(' ');
  // The same map until another waveform comes: what is found in it need not be looked for at every frame.
  return useMemo(
    () =>
      new Map(
        ids.split(' ').flatMap((take, i) => (answers[i] ? [[take as TakeId, answers[i]] as const] : [])),
      ),
    [ids, answers],
  );
}

const dataOf = (answers: readonly { data: TakePeaks | undefined }[]) => answers.map(({ data }) => data);

/**
 * The path of a stretch of sound, at most one point a pixel: the loudest of those that fall together.
 * @param stretch from and to in µs of the take, where its first moment lies on `x`, and how fast it runs there
 * @param lane its top and height in pixels; the loudest reaches one pixel less than half of it
 * @returns an SVG path; empty where the track has no waveform
 */
export function waveform(
  peaks: TakePeaks | undefined,
  track: SoundKind,
  stretch: { fromUs: number; toUs: number; atUs: number; speed?: number },
  x: ScaleLinear<number, number>,
  lane: { top: number; height: number },
): string {
  const all = peaks?.tracks[track];
  if (!peaks || !all) return '';
  const index = (us: number) => Math.floor((us / 1e6) * peaks.perSecond);
  const own = all.slice(index(stretch.fromUs), index(stretch.toUs));
  const speed = stretch.speed ?? 1;
  const pixels = Math.max(2, x((stretch.toUs - stretch.fromUs) / speed));
  const step = Math.max(1, Math.ceil(own.length / pixels));
  const points = Array.from({ length: Math.ceil(own.length / step) }, (_, i) =>
    Math.max(...own.slice(i * step, (i + 1) * step)),
  );
  const middle = lane.top + lane.height / 2;
  const reach = (peak: number) => Math.max(0.5, (peak / 255) * (lane.height / 2 - 1));
  return (
    area<number>()
      .x((_, i) => x(stretch.atUs + (i * step * 1e6) / peaks.perSecond / speed))
      .y0((peak) => middle - reach(peak))
      .y1((peak) => middle + reach(peak))(points) ?? ''
  );
}
