'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { useSetUp } from '../set-up-context';
import type { Stretch } from '../stretches';
import { FlowBands } from './flow-bands';
import { FlowFigures } from './flow-figures';
import { bandOf, flowShape } from './flow-shape';
import { FlowTable } from './flow-table';
import { FlowTabs } from './flow-tabs';

const SCALE_HEIGHT = 20;
/** Below the bands: those that carry nothing. */
const DRY_HEIGHT = 30;
const USUAL_WIDTH = 1224;

/** The flow: the data from the display to the disk, each narrowing with its true figure. Its stretches are tabs of what stands below. */
export function FlowDrawing({ open, onOpen }: { open: Stretch; onOpen: (stretch: Stretch) => void }) {
  const { flow } = useSetUp();
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(USUAL_WIDTH);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const sizes = new ResizeObserver(([entry]) => entry && setWidth(entry.contentRect.width));
    sizes.observe(element);
    return () => sizes.disconnect();
  }, []);
  const shape = useMemo(() => flowShape(flow, width), [flow, width]);
  const height = shape.height + (shape.bands.length < 4 ? DRY_HEIGHT : 0) + SCALE_HEIGHT;
  const joined =
    open === 'camera' || open === 'voice' || open === 'app-sound' ? bandOf(shape, open) : undefined;
  return (
    <div className="flow" ref={box} style={{ height }}>
      <FlowBands {...{ shape, width, height }} />
      <FlowTabs {...{ shape, width, height, open, onOpen }} />
      <FlowFigures {...{ shape, width }} />
      {joined && (
        // A band's tab lies above those of others: its edge runs on down to the panel.
        <i
          className="flow-join"
          style={{ top: joined.rawY + Math.max(12, joined.rawHeight / 2), bottom: -3 }}
          aria-hidden="true"
        />
      )}
      <p className="flow-scale small mute">Band widths are logarithmic.</p>
      <FlowTable />
    </div>
  );
}
