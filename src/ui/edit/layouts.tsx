'use client';

import { Collapse, Radio } from 'antd';
import type { ReactNode } from 'react';
import { colourKeyOf, isMirrored, LAYOUT_NAMES, type Layout } from '@/core/layout/layout-kinds';
import { type CameraPlace, FIRST_PLACE } from '@/core/rig/rig';
import { CameraBackground, CameraLook } from '../fields/camera-look';
import { Pebbles } from '../fields/choices';
import type { ChangeHow } from '../fields/slider';

const screen = (x: number, width: number) => (
  <rect x={x} y="4" width={width} height="24" rx="3" fill="var(--river)" />
);
const face = (x: number, y: number, width: number, height: number) => (
  <rect x={x} y={y} width={width} height={height} rx="3" fill="var(--plum)" />
);
const DRAWINGS: Record<Layout['kind'], ReactNode> = {
  screen: screen(4, 44),
  corner: (
    <>
      {screen(4, 44)}
      <rect x="32" y="17" width="15" height="10" rx="3" fill="var(--surface)" />
      {face(33, 18, 13, 8)}
    </>
  ),
  'side-by-side': (
    <>
      {screen(4, 29)}
      {face(35, 4, 13, 24)}
    </>
  ),
  camera: face(4, 4, 44, 24),
};

/** What a step shows: four pebbles that are drawings of it. */
export function Layouts(props: {
  layout: Layout;
  withCamera: boolean;
  /** Where the camera lies when it comes back into a corner. */
  place: CameraPlace | null;
  onChange: (layout: Layout, how: ChangeHow) => void;
}) {
  const { layout, withCamera, place, onChange } = props;
  // The camera keeps its look from layout to layout.
  const { mirror, key } =
    layout.kind === 'screen'
      ? { mirror: place?.mirror ?? false, key: place?.key ?? null }
      : { mirror: isMirrored(layout), key: colourKeyOf(layout) };
  const next: Record<Layout['kind'], Layout> = {
    screen: { kind: 'screen' },
    corner:
      layout.kind === 'corner'
        ? layout
        : { kind: 'corner', place: { ...(place ?? FIRST_PLACE), mirror, key } },
    'side-by-side': { kind: 'side-by-side', camera: 'right', mirror, key },
    camera: { kind: 'camera', mirror, key },
  };
  const kinds = Object.keys(LAYOUT_NAMES) as Layout['kind'][];
  return (
    <section className="stack" aria-labelledby="layout">
      <h2 id="layout">Layout</h2>
      <Radio.Group
        className="layout-pebbles"
        optionType="button"
        aria-labelledby="layout"
        value={layout.kind}
        onChange={({ target }) => {
          onChange(next[target.value as Layout['kind']], 'step');
          // Chosen by pointer, it gives the arrow keys back to the player; chosen by key, it keeps them.
          requestAnimationFrame(() =>
            document.querySelector<HTMLElement>('.layout-pebbles :focus:not(:focus-visible)')?.blur(),
          );
        }}
      >
        {kinds.map((kind) => (
          <Radio.Button key={kind} value={kind} disabled={!withCamera && kind !== 'screen'}>
            <svg width="52" height="32" viewBox="0 0 52 32" aria-hidden="true">
              {DRAWINGS[kind]}
            </svg>
            {LAYOUT_NAMES[kind]}
          </Radio.Button>
        ))}
      </Radio.Group>
      {!withCamera && <p className="small mute">This take has no camera.</p>}
      {layout.kind !== 'screen' && withCamera && (
        <Collapse
          className="camera-look"
          ghost
          size="small"
          items={[
            {
              key: 'look',
              label: 'Camera look',
              children: <LayoutLook layout={layout} onChange={onChange} />,
            },
          ]}
        />
      )}
    </section>
  );
}

const KEY_NOTE = 'The camera is a track of its own: the recording is not changed.';

/** How the camera of a layout looks: all of it as an overlay; its side and its background beside the screen or instead of it. */
function LayoutLook(props: {
  layout: Exclude<Layout, { kind: 'screen' }>;
  onChange: (layout: Layout, how: ChangeHow) => void;
}) {
  const { layout, onChange } = props;
  if (layout.kind === 'corner')
    return (
      <CameraLook
        place={layout.place}
        onChange={(part, how) => onChange({ ...layout, place: { ...layout.place, ...part } }, how)}
        keyNote={KEY_NOTE}
      />
    );
  return (
    <>
      {layout.kind === 'side-by-side' && (
        <Pebbles
          name="Side"
          value={layout.camera}
          options={[
            { value: 'left', label: 'Left' },
            { value: 'right', label: 'Right' },
          ]}
          onChange={(camera) => onChange({ ...layout, camera }, 'step')}
        />
      )}
      <CameraBackground
        colourKey={layout.key}
        onChange={(key, how) => onChange({ ...layout, key }, how)}
        keyNote={KEY_NOTE}
      />
    </>
  );
}
