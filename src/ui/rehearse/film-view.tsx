'use client';

import {
  CaretRightOutlined,
  PauseOutlined,
  StepBackwardOutlined,
  StepForwardOutlined,
} from '@ant-design/icons';
import { Button, Flex, Modal } from 'antd';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Size } from '@/core/base/sizes';
import type { OpenFilm } from '@/recorder/rehearsal/film';

type Props = { film: OpenFilm; fromUs: number; size: Size; onClose: () => void };

/** Two frames of the picture are never nearer. */
const STEP_US = 33_333;

/** What a rehearsal has recorded, as encoded, at 100 %, playing or frame by frame. */
export function FilmView({ film, fromUs, size, onClose }: Props) {
  const [atUs, setAtUs] = useState(fromUs);
  const [playing, setPlaying] = useState(false);
  const canvas = useRef<HTMLCanvasElement>(null);
  const show = useCallback(
    async (tUs: number): Promise<boolean> => {
      const frame = await film.frameAt(tUs);
      const pen = canvas.current?.getContext('2d');
      if (frame && pen) pen.drawImage(frame, 0, 0, size.width, size.height);
      frame?.close();
      return frame !== null;
    },
    [film, size],
  );
  useEffect(() => {
    if (!playing) void show(atUs);
  }, [playing, atUs, show]);
  useEffect(() => {
    if (!playing) return;
    let current = true;
    const began = performance.now();
    const play = async () => {
      let tUs = atUs;
      while (current) {
        tUs = atUs + (performance.now() - began) * 1000;
        if (!(await show(tUs))) break;
        await new Promise(requestAnimationFrame);
      }
      setAtUs(tUs);
      setPlaying(false);
    };
    void play();
    return () => {
      current = false;
    };
  }, [playing, atUs, show]);
  const step = (by: number) => {
    setPlaying(false);
    setAtUs((old) => Math.max(0, old + by * STEP_US));
  };
  useHotkeys('space', () => setPlaying((old) => !old), { preventDefault: true });
  useHotkeys('comma', () => step(-1));
  useHotkeys('period', () => step(1));
  return (
    <Modal open title="As encoded, at 100 %" footer={null} onCancel={onClose} width="96vw" centered>
      <div>
        <Flex gap={8} align="center">
          <Button aria-label="Previous frame" icon={<StepBackwardOutlined />} onClick={() => step(-1)} />
          <Button
            aria-label={playing ? 'Pause' : 'Play'}
            icon={playing ? <PauseOutlined /> : <CaretRightOutlined />}
            onClick={() => setPlaying((old) => !old)}
          />
          <Button aria-label="Next frame" icon={<StepForwardOutlined />} onClick={() => step(1)} />
          <span className="small mute">
            {(atUs / 1e6).toFixed(2)} s <kbd>Space</kbd> plays, <kbd>,</kbd> and <kbd>.</kbd> step
          </span>
        </Flex>
        <div className="film-view">
          <canvas
            ref={canvas}
            width={size.width}
            height={size.height}
            style={{ width: size.width / globalThis.devicePixelRatio }}
            role="img"
            aria-label="Recorded picture"
          />
        </div>
      </div>
    </Modal>
  );
}
