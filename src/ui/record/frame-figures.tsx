'use client';

import { useSelector } from '@xstate/react';
import { useStore } from 'zustand';
import { bytesText } from '@/core/base/figures';
import { fpsText } from '@/core/base/rational';
import type { Session } from '@/recorder/session';
import { uploadNews } from '@/recorder/uploader/uploader';
import { Figures } from '../page/figures';

/** The ledger of frames, four times per second: what was asked, what came, what became of it. */
export function FrameFigures({ session }: { session: Session }) {
  const figures = useSelector(session.actor, ({ context }) => context.figures);
  const takeId = useSelector(session.actor, ({ context }) => context.takeId);
  const news = useStore(uploadNews, ({ news }) => news);
  const upload = news?.takes.find(({ id }) => id === takeId);
  const screen = figures?.video.screen;
  const camera = figures?.video.camera;
  if (!screen) return <aside className="panel mute">Figures appear with the picture.</aside>;
  return (
    <aside className="panel" aria-label="Figures">
      <Figures
        title="Screen"
        of={[
          { name: 'Target', value: `${fpsText(screen.askedFps)} fps` },
          { name: 'Captured', value: `${screen.arrivedFps.toFixed(0)} fps` },
          {
            name: 'Recorded',
            value: figures.recording ? `${screen.achievedFps.toFixed(0)} fps` : '–',
            strong: true,
          },
          { name: 'Encoded frames', value: String(screen.encoded) },
          { name: 'Repeated, still screen', value: String(screen.repeated) },
          { name: 'Skipped, above the target', value: String(screen.skipped) },
          { name: 'Dropped by the encoder', value: String(screen.dropped), strong: screen.dropped > 0 },
          {
            name: 'Encode time, median / p95',
            value: figures.recording
              ? `${screen.encodeP50Ms.toFixed(0)} / ${screen.encodeP95Ms.toFixed(0)} ms`
              : '–',
          },
          { name: 'Encoder queue', value: String(screen.queue) },
        ]}
      />
      {screen.hintReason && (
        <p className="small mute">
          Text hint {screen.textHint ? 'on' : 'off'}: {screen.hintReason}.
        </p>
      )}
      {camera && (
        <Figures
          title="Camera"
          of={[
            { name: 'Captured', value: `${camera.arrivedFps.toFixed(0)} fps` },
            { name: 'Encoded / dropped', value: `${camera.encoded} / ${camera.dropped}` },
          ]}
        />
      )}
      <Figures
        title="Storage"
        of={[
          { name: 'In this browser', value: bytesText(figures.bytes) },
          {
            name: 'Not yet on the server',
            value: upload
              ? bytesText(Math.max(0, figures.bytes - upload.sentBytes))
              : figures.recording
                ? bytesText(figures.bytes)
                : '–',
          },
        ]}
      />
    </aside>
  );
}
