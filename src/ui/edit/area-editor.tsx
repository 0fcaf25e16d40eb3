'use client';

import { useRef } from 'react';
import type { Rect, Size } from '@/core/base/sizes';
import type { Area } from '@/core/cut/area';
import { changeCover, changeZoom } from '@/core/cut/area-edits';
import type { Step } from '@/core/cut/cut';
import type { Region } from '@/core/image/region';
import { contain } from '@/core/layout/layout';
import { RegionEditor } from '../drawing/region-editor';
import type { DrawnArea } from './use-areas';
import type { CutKeeper } from './use-cut';

const NO_EDGES: readonly Rect[] = [];

const percent = (part: number, whole: number) => `${(100 * part) / whole}%`;
const toPixels = ({ x, y, width, height }: Area, size: Size): Region => ({
  x: Math.round(x * size.width),
  y: Math.round(y * size.height),
  width: Math.round(width * size.width),
  height: Math.round(height * size.height),
});
const toShares = ({ x, y, width, height }: Region, size: Size): Area => ({
  x: x / size.width,
  y: y / size.height,
  width: width / size.width,
  height: height / size.height,
});

/** The area of a zoom or a cover on the picture. A zoom has the picture's own shape, so that nothing is distorted. */
export function AreaEditor(props: {
  drawn: DrawnArea;
  step: Step;
  /** Of the video's picture, into which the screen is fitted. */
  picture: Size;
  /** Of the screen that is seen. */
  size: Size;
  keeper: CutKeeper;
}) {
  const { drawn, step, picture, size, keeper } = props;
  const dragging = useRef(false);
  const area = step[drawn.what][drawn.index]?.area;
  if (!area) return null;
  const isZoom = drawn.what === 'zooms';
  const at = contain(size, picture);
  return (
    <div
      style={{
        position: 'absolute',
        left: percent(at.x, picture.width),
        top: percent(at.y, picture.height),
        width: percent(at.width, picture.width),
        height: percent(at.height, picture.height),
      }}
    >
      <RegionEditor
        name={isZoom ? 'Zoom' : 'Cover'}
        region={toPixels(area, size)}
        source={size}
        aspect={isZoom ? size.width / size.height : null}
        edges={NO_EDGES}
        onChange={(region, done) => {
          const change = isZoom ? changeZoom : changeCover;
          const next = change(keeper.cut, step.id, drawn.index, { area: toShares(region, size) });
          // However far it is dragged, it is one step of the history.
          keeper.change(next, dragging.current ? 'drag' : 'step');
          dragging.current = !done;
        }}
      />
    </div>
  );
}
