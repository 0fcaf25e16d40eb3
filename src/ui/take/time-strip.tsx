'use client';

import { useQuery } from '@tanstack/react-query';
import { scaleLinear } from 'd3-scale';
import { area } from 'd3-shape';
import { useRef } from 'react';
import { clockText } from '@/core/figures';
import type { TakePage } from '@/core/take-page';

type Peaks = { perSecond: number; tracks: Partial<Record<'voice' | 'app-sound', number[]>> };

const WIDTH = 1000;
const LANE = 30;

/** The take from end to end: the waveform of each sound in its colour, the playhead, and seeking by pointer and keys. */
export function TimeStrip(props: {
  take: TakePage;
  positionUs: number;
  durationUs: number;
  onSeek: (us: number) => void;
}) {
  const { take, positionUs, durationUs, onSeek } = props;
  const strip = useRef<HTMLDivElement>(null);
  const { data: peaks } = useQuery<Peaks>({
    queryKey: ['peaks', take.id],
    enabled: take.facts !== null,
    queryFn: async () => (await fetch(`/api/media/${take.id}/peaks.json`)).json(),
  });
  const lanes = (['voice', 'app-sound'] as const).filter((track) => peaks?.tracks[track]);
  const height = Math.max(1, lanes.length) * LANE;
  const x = scaleLinear([0, Math.max(1, durationUs)], [0, WIDTH]);
  const seekAt = (clientX: number) => {
    const box = strip.current?.getBoundingClientRect();
    if (box)
      onSeek(
        Math.round(Math.max(0, Math.min(durationUs, x.invert(((clientX - box.left) / box.width) * WIDTH)))),
      );
  };
  return (
    <div
      ref={strip}
      className="time-strip"
      role="slider"
      tabIndex={0}
      aria-label="Place in the take"
      aria-valuemin={0}
      aria-valuemax={Math.round(durationUs / 1e6)}
      aria-valuenow={Math.round(positionUs / 1e6)}
      aria-valuetext={clockText(positionUs)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        seekAt(event.clientX);
      }}
      onPointerMove={(event) => event.buttons === 1 && seekAt(event.clientX)}
    >
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        preserveAspectRatio="none"
        width="100%"
        height={height}
        aria-hidden="true"
      >
        {lanes.map((track, lane) => (
          <path
            key={track}
            d={waveform(peaks?.tracks[track] ?? [], peaks?.perSecond ?? 50, x, lane * LANE) ?? ''}
            fill={`var(--${track === 'voice' ? 'moss' : 'heron'})`}
          />
        ))}
        <line
          x1={x(positionUs)}
          x2={x(positionUs)}
          y1="0"
          y2={height}
          stroke="var(--ink)"
          strokeWidth="2"
          vectorEffect="non-scaling-stroke"
        />
      </svg>
    </div>
  );
}

/** At most one point a pixel: the loudest of those that fall together. */
function waveform(all: number[], perSecond: number, x: (us: number) => number, top: number): string | null {
  const step = Math.max(1, Math.ceil(all.length / WIDTH));
  const points = Array.from({ length: Math.ceil(all.length / step) }, (_, i) =>
    Math.max(...all.slice(i * step, (i + 1) * step)),
  );
  const middle = top + LANE / 2;
  const reach = (peak: number) => Math.max(0.5, (peak / 255) * (LANE / 2 - 1));
  return area<number>()
    .x((_, i) => x((i * step * 1e6) / perSecond))
    .y0((peak) => middle - reach(peak))
    .y1((peak) => middle + reach(peak))(points);
}
