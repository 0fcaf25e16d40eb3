import { ZoomInOutlined, ZoomOutOutlined } from '@ant-design/icons';
import { Button, Flex } from 'antd';
import { memo, type ReactNode, useEffect, useRef } from 'react';
import type { Player } from '@/player/player';
import { useAction } from '../keys/use-action';

const MOST_ZOOM = 32;

type Zoom = { zoom: number; onZoom: (zoom: number) => void };

/** The strip, widened by a whole factor within its own scrolling frame; the playhead stays in sight. */
export function StripZoom(
  props: Zoom & {
    player: Player | null;
    lengthUs: number;
    /** Below the zoom buttons. */
    beside?: ReactNode;
    children: ReactNode;
  },
) {
  const { player, lengthUs, zoom, onZoom } = props;
  const frame = useRef<HTMLElement>(null);
  useEffect(() => {
    const box = frame.current;
    // All of it is in sight: asking for its measures would have the page laid out for every picture.
    if (!box || !player || zoom === 1) return;
    const keepInSight = () => {
      const x = (player.store.getState().positionUs / lengthUs) * box.scrollWidth;
      const seen = x >= box.scrollLeft && x <= box.scrollLeft + box.clientWidth;
      if (!seen) box.scrollLeft = x - box.clientWidth / 2;
    };
    keepInSight();
    return player.store.subscribe(keepInSight);
  }, [player, lengthUs, zoom]);
  return (
    <Flex gap={8} align="center">
      <section className="edit-strip" ref={frame} aria-label="Steps and sounds">
        <div style={{ width: `${100 * zoom}%` }}>{props.children}</div>
      </section>
      <Flex vertical gap={4}>
        <ZoomButtons {...{ zoom, onZoom }} />
        {props.beside}
      </Flex>
    </Flex>
  );
}

const ZoomButtons = memo(function ZoomButtons({ zoom, onZoom }: Zoom) {
  const zoomIn = () => onZoom(Math.min(MOST_ZOOM, zoom * 2));
  const zoomOut = () => onZoom(Math.max(1, zoom / 2));
  useAction('edit.zoom-in', zoomIn, { repeats: true });
  useAction('edit.zoom-out', zoomOut, { repeats: true });
  return (
    <>
      <Button
        type="text"
        size="small"
        icon={<ZoomInOutlined />}
        aria-label="Zoom in"
        disabled={zoom === MOST_ZOOM}
        onClick={zoomIn}
      />
      <Button
        type="text"
        size="small"
        icon={<ZoomOutOutlined />}
        aria-label="Zoom out"
        disabled={zoom === 1}
        onClick={zoomOut}
      />
    </>
  );
});
