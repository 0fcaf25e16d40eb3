'use client';

import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { type Handle, moveRegion, type Region, resizeRegion, snapRegion } from '@/core/region';
import { type Rect, type Size, sizeText } from '@/core/sizes';

const HANDLES: (Handle & { name: string })[] = [
  { h: -1, v: -1, name: 'upper left corner' },
  { h: 0, v: -1, name: 'upper edge' },
  { h: 1, v: -1, name: 'upper right corner' },
  { h: 1, v: 0, name: 'right edge' },
  { h: 1, v: 1, name: 'lower right corner' },
  { h: 0, v: 1, name: 'lower edge' },
  { h: -1, v: 1, name: 'lower left corner' },
  { h: -1, v: 0, name: 'left edge' },
];

/** So near an edge of a window, in pixels of the screen, a drawn edge jumps to it. */
const SNAP_PX = 6;
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** Colours are shared by two pixels: a region stands on even ones. */
const STEP = 2;

/** The region on the live picture: moved and resized by drawing and by keys. What is outside is shaded. */
export function RegionEditor(props: {
  region: Region;
  source: Size;
  aspect: number | null;
  /** Windows in the source, whose edges it jumps to. */
  edges: readonly Rect[];
  onChange: (region: Region) => void;
}) {
  const { region, source, aspect, edges, onChange } = props;
  const box = useRef<HTMLDivElement>(null);
  const drawn = useRef<{ x: number; y: number; from: Region; handle: Handle | null } | null>(null);
  const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;

  const down = (handle: Handle | null) => (event: PointerEvent) => {
    event.preventDefault();
    event.stopPropagation();
    (event.target as Element).setPointerCapture(event.pointerId);
    (event.currentTarget as HTMLElement).focus();
    drawn.current = { x: event.clientX, y: event.clientY, from: region, handle };
  };
  const move = (event: PointerEvent) => {
    const { current: start } = drawn;
    const outer = box.current?.parentElement?.getBoundingClientRect();
    if (!start || !outer) return;
    const scale = source.width / outer.width;
    const [dx, dy] = [(event.clientX - start.x) * scale, (event.clientY - start.y) * scale];
    const next = start.handle
      ? resizeRegion(start.from, start.handle, dx, dy, source, aspect)
      : moveRegion(start.from, dx, dy, source);
    const snapped = start.handle && aspect === null ? snapRegion(next, edges, SNAP_PX * scale, source) : next;
    onChange(snapped);
  };
  const up = () => {
    drawn.current = null;
  };
  const key = (handle: Handle | null) => (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 10 * STEP : STEP;
    const [dx, dy] = [arrow[0] * by, arrow[1] * by];
    onChange(
      handle ? resizeRegion(region, handle, dx, dy, source, aspect) : moveRegion(region, dx, dy, source),
    );
  };
  return (
    <div className="region-shade" onPointerMove={move} onPointerUp={up} onPointerCancel={up}>
      {/* biome-ignore lint/a11y/useSemanticElements: no element moves in two directions */}
      <div
        ref={box}
        className="region"
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
        tabIndex={0}
        aria-label={`Region ${sizeText(region)} from ${region.x}, ${region.y}. Arrow keys move it, with Shift further.`}
        style={{
          left: percent(region.x, source.width),
          top: percent(region.y, source.height),
          width: percent(region.width, source.width),
          height: percent(region.height, source.height),
        }}
        onPointerDown={down(null)}
        onKeyDown={key(null)}
      >
        <span className="region-size">{sizeText(region)}</span>
        {HANDLES.map(({ h, v, name }) => (
          <button
            key={name}
            type="button"
            className="handle-stone"
            aria-label={`Region, ${name}`}
            style={{ left: `${50 + 50 * h}%`, top: `${50 + 50 * v}%` }}
            onPointerDown={down({ h, v })}
            onKeyDown={key({ h, v })}
          />
        ))}
      </div>
    </div>
  );
}
