'use client';

import { MinusOutlined, PlusOutlined } from '@ant-design/icons';
import { Button, Flex, Tooltip } from 'antd';
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { clamp } from '@/core/base/clamp';
import { frameText } from '@/core/rehearsal/frame-text';
import { budgetMs, type FrameMark, type RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { type StripWindow, windowShowing, zoomedWindow } from '@/core/rehearsal/strip-window';
import { coloursOf, drawStrip, STRIP, stripScales } from './draw-strip';

type Props = {
  trace: RehearsalTrace;
  frames: readonly FrameMark[];
  /** Index of the selected frame. */
  selected: number;
  onSelect: (n: number) => void;
};

const ZOOM = 0.5;
const PAGE = 10;
const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };

/** One mark for every frame of a rehearsal, its height the time that was worked on it, against the budget line. */
export function FrameStrip({ trace, frames, selected, onSelect }: Props) {
  const lengthUs = Math.max(trace.durationUs, 1);
  const [window_, setWindow] = useState<StripWindow>({ fromUs: 0, toUs: lengthUs });
  const [hovered, setHovered] = useState<number | null>(null);
  const [canvas, width] = useDrawn({ trace, frames, window: window_, selected });
  const budget = budgetMs(trace);
  const frameAt = (event: PointerEvent<HTMLElement>) => {
    const { left } = event.currentTarget.getBoundingClientRect();
    const tUs = stripScales({ trace, frames, window: window_, width }).x.invert(event.clientX - left);
    return nearest(frames, tUs);
  };
  const select = (n: number) => {
    const at = clamp(n, 0, frames.length - 1);
    onSelect(at);
    setWindow((old) => windowShowing(old, frames[at]?.tUs ?? 0, lengthUs));
  };
  const zoom = (factor: number) =>
    setWindow((old) => zoomedWindow(old, factor, frames[selected]?.tUs ?? 0, lengthUs));
  const onKeyDown = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    if (step) select(selected + step * (event.shiftKey ? PAGE : 1));
    else if (event.key === 'Home') select(0);
    else if (event.key === 'End') select(frames.length - 1);
    else if (event.key === '+' || event.key === '=') zoom(ZOOM);
    else if (event.key === '-') zoom(1 / ZOOM);
    else return;
    event.preventDefault();
  };
  const shown = frames[hovered ?? selected];
  const text = shown ? frameText(shown, hovered ?? selected, budget) : 'No frames.';
  return (
    <div className="frame-strip">
      <Tooltip title={hovered === null ? null : text} open={hovered !== null} placement="top">
        <div
          role="slider"
          tabIndex={0}
          aria-label="Frames"
          aria-valuemin={1}
          aria-valuemax={Math.max(1, frames.length)}
          aria-valuenow={selected + 1}
          aria-valuetext={frames[selected] ? frameText(frames[selected], selected, budget) : text}
          onKeyDown={onKeyDown}
          onPointerMove={(event) => setHovered(frameAt(event))}
          onPointerLeave={() => setHovered(null)}
          onPointerDown={(event) => onSelect(frameAt(event))}
        >
          <canvas ref={canvas} style={{ height: STRIP.height }} />
        </div>
      </Tooltip>
      <Flex className="strip-zoom" gap={4}>
        <Tooltip title="Zoom in (+)">
          <Button size="small" aria-label="Zoom in" icon={<PlusOutlined />} onClick={() => zoom(ZOOM)} />
        </Tooltip>
        <Tooltip title="Zoom out (−)">
          <Button
            size="small"
            aria-label="Zoom out"
            icon={<MinusOutlined />}
            disabled={window_.toUs - window_.fromUs >= lengthUs}
            onClick={() => zoom(1 / ZOOM)}
          />
        </Tooltip>
      </Flex>
    </div>
  );
}

/** The frame nearest to a time; frames are in order. */
function nearest(frames: readonly FrameMark[], tUs: number): number {
  let [low, high] = [0, frames.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((frames[middle]?.tUs ?? 0) < tUs) low = middle + 1;
    else high = middle;
  }
  const before = frames[low - 1];
  return before && tUs - before.tUs < (frames[low]?.tUs ?? 0) - tUs ? low - 1 : low;
}

/** A canvas that is drawn when something on it changes, or its size does. @returns it, and its width in px */
function useDrawn(strip: Omit<Parameters<typeof drawStrip>[1], 'width'>) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = canvas.current?.parentElement;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const { trace, frames, window: shown, selected } = strip;
  useEffect(() => {
    const element = canvas.current;
    const pen = element?.getContext('2d');
    if (!element || !pen || width === 0) return;
    const sharp = globalThis.devicePixelRatio;
    element.width = Math.round(width * sharp);
    element.height = Math.round(STRIP.height * sharp);
    element.style.width = `${width}px`;
    pen.setTransform(sharp, 0, 0, sharp, 0, 0);
    drawStrip(pen, { trace, frames, window: shown, selected, width }, coloursOf(element));
  }, [trace, frames, shown, selected, width]);
  return [canvas, width] as const;
}
