'use client';

import { Button } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { bytesText } from '@/core/base/figures';
import type { Size } from '@/core/base/sizes';
import { FATE_NAMES, shownFate } from '@/core/rehearsal/frame-text';
import { type FrameMark, workMs } from '@/core/rehearsal/frame-trace';
import { type OpenFilm, openFilm } from '@/recorder/rehearsal/film';
import type { RehearsalFilm } from '@/recorder/rehearsal/rehearse';
import { Figures } from '../page/figures';
import { FilmView } from './film-view';

type Props = {
  frame: FrameMark | undefined;
  n: number;
  budget: number;
  film: RehearsalFilm | null;
  size: Size | null;
};

const ms = (value: number) => `${value.toFixed(value < 10 ? 1 : 0)} ms`;

/** The selected frame: a part of it at 100 %, and what each stage did with it. */
export function FrameFacts({ frame, n, budget, film, size }: Props) {
  const opened = useOpenFilm(film);
  const [watching, setWatching] = useState(false);
  if (!frame) return null;
  const fate = shownFate(frame, budget);
  const isKept = fate === 'on-time' || fate === 'late';
  return (
    <aside className="panel frame-facts" aria-label="Selected frame">
      {opened && <FrameCrop film={opened} tUs={frame.tUs} />}
      <p className="row small">
        <b>
          Frame {n + 1}, at {(frame.tUs / 1e6).toFixed(2)} s
        </b>
        <span className="grow" />
        <b className={fate === 'late' ? 'amber' : fate === 'dropped' || fate === 'missed' ? 'clay' : ''}>
          {fate === 'late' ? `${ms(workMs(frame) - budget)} late` : FATE_NAMES[fate]}
        </b>
      </p>
      <Figures
        of={[
          { name: 'Capture', value: ms(frame.deliveryMs) },
          isKept && { name: 'Queue', value: ms(frame.waitMs) },
          isKept && { name: 'Compositing', value: ms(frame.composeMs) },
          isKept && { name: 'Encoder', value: `${ms(frame.encodeMs)} of ${ms(budget)}`, strong: true },
          frame.bytes > 0 && {
            name: 'Size',
            value: `${bytesText(frame.bytes)}${frame.key ? ', keyframe' : ''}`,
          },
        ]}
      />
      {opened && size && (
        <>
          <Button size="small" onClick={() => setWatching(true)}>
            Watch at 100 %
          </Button>
          {watching && (
            <FilmView film={opened} fromUs={frame.tUs} size={size} onClose={() => setWatching(false)} />
          )}
        </>
      )}
    </aside>
  );
}

function useOpenFilm(film: RehearsalFilm | null): OpenFilm | null {
  const [opened, setOpened] = useState<OpenFilm | null>(null);
  useEffect(() => {
    if (!film || film.parts.length === 0) return;
    const own = openFilm(film);
    setOpened(own);
    return () => {
      own.close();
      setOpened(null);
    };
  }, [film]);
  return opened;
}

const CROP = { width: 252, height: 96 };

/** The middle of a frame at 100 %, as encoded. */
function FrameCrop({ film, tUs }: { film: OpenFilm; tUs: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let current = true;
    void film.frameAt(tUs).then((frame) => {
      const pen = canvas.current?.getContext('2d');
      if (frame && pen && current) {
        const { displayWidth, displayHeight } = frame;
        const at = { x: (displayWidth - CROP.width) / 2, y: (displayHeight - CROP.height) / 2 };
        pen.drawImage(frame, at.x, at.y, CROP.width, CROP.height, 0, 0, CROP.width, CROP.height);
      }
      frame?.close();
    });
    return () => {
      current = false;
    };
  }, [film, tUs]);
  return <canvas ref={canvas} {...CROP} role="img" aria-label="The middle of the frame at 100 %" />;
}
