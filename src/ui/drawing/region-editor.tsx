'use client';

import { type Rect, type Size, sizeText } from '@/core/base/sizes';
import { type Handle, moveRegion, type Region, resizeRegion, snapRegion } from '@/core/image/region';
import { useDrawing } from './use-drawing';

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

/** What Ctrl and arrow keys draw: the near corner stays where it is. */
const FAR_CORNER: Handle = { h: 1, v: 1 };

/** So near an edge of a window, in pixels of the screen, a drawn edge jumps to it. */
const SNAP_PX = 6;

/** A region on a picture: moved and resized by drawing and by keys. What is outside is shaded. */
export function RegionEditor(props: {
  /** What it is. */
  name?: string;
  region: Region;
  source: Size;
  aspect: number | null;
  /** Windows in the source, whose edges it jumps to. */
  edges: readonly Rect[];
  /** @param done whether this is the last of a drag */
  onChange: (region: Region, done: boolean) => void;
}) {
  const { name: what = 'Region', region, source, aspect, edges, onChange } = props;
  const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;
  const { box, grip } = useDrawing<Handle | null, Region>(
    source.width,
    region,
    (grasped, from, dx, dy, { scale, ctrl, done }) => {
      const handle = grasped ?? (ctrl ? FAR_CORNER : null);
      const next = handle
        ? resizeRegion(from, handle, dx, dy, source, aspect)
        : moveRegion(from, dx, dy, source);
      onChange(
        handle && aspect === null && scale > 0 ? snapRegion(next, edges, SNAP_PX * scale, source) : next,
        done,
      );
    },
  );
  return (
    <div className="over region-shade">
      {/* biome-ignore lint/a11y/useSemanticElements: no element moves in two directions */}
      <div
        ref={box}
        className="region"
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved by keys
        tabIndex={0}
        aria-label={`${what} ${sizeText(region)} from ${region.x}, ${region.y}. Arrow keys move it by 2 px, or by 10 px with Shift; with Ctrl they resize it.`}
        style={{
          left: percent(region.x, source.width),
          top: percent(region.y, source.height),
          width: percent(region.width, source.width),
          height: percent(region.height, source.height),
        }}
        {...grip(null)}
      >
        <span className="region-size">{sizeText(region)}</span>
        {HANDLES.map(({ h, v, name }) => (
          <button
            key={name}
            type="button"
            className="handle-stone"
            aria-label={`${what}, ${name}`}
            style={{ left: `${50 + 50 * h}%`, top: `${50 + 50 * v}%` }}
            {...grip({ h, v })}
          />
        ))}
      </div>
    </div>
  );
}
