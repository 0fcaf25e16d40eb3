'use client';

import { useSelector } from '@xstate/react';
import { useSyncExternalStore } from 'react';
import { bytesText } from '@/core/figures';
import type { Session } from '@/recorder/session';
import { uploadNews } from '@/recorder/uploader/uploader';
import { Figure } from '../shared/figure';

/** The ledger of frames, four times per second: what was asked, what came, what became of it. */
export function FrameFigures({ session }: { session: Session }) {
  const figures = useSelector(session.actor, ({ context }) => context.figures);
  const takeId = useSelector(session.actor, ({ context }) => context.takeId);
  const news = useSyncExternalStore(uploadNews.subscribe, uploadNews.get, () => null);
  const upload = news?.takes.find(({ id }) => id === takeId);
  const screen = figures?.video.screen;
  const camera = figures?.video.camera;
  if (!screen) return <aside className="panel figures mute">Figures appear with the picture.</aside>;
  return (
    <aside className="panel figures" aria-label="Figures">
      <h2>Screen</h2>
      <dl>
        <Figure name="Target" value={`${screen.askedFps.toFixed(screen.askedFps % 1 ? 2 : 0)} fps`} />
        <Figure name="Captured" value={`${screen.arrivedFps.toFixed(0)} fps`} />
        <Figure
          name="Recorded"
          value={figures.recording ? `${screen.achievedFps.toFixed(0)} fps` : '–'}
          strong
        />
        <Figure name="Encoded frames" value={String(screen.encoded)} />
        <Figure name="Repeated, still screen" value={String(screen.repeated)} />
        <Figure name="Skipped, above the target" value={String(screen.skipped)} />
        <Figure name="Dropped by the encoder" value={String(screen.dropped)} strong={screen.dropped > 0} />
        <Figure
          name="Encode time, median / p95"
          value={
            figures.recording ? `${screen.encodeP50Ms.toFixed(0)} / ${screen.encodeP95Ms.toFixed(0)} ms` : '–'
          }
        />
        <Figure name="Encoder queue" value={String(screen.queue)} />
      </dl>
      {screen.hintReason && (
        <p className="small mute">
          Text hint {screen.textHint ? 'on' : 'off'}: {screen.hintReason}.
        </p>
      )}
      {camera && (
        <>
          <h2>Camera</h2>
          <dl>
            <Figure name="Captured" value={`${camera.arrivedFps.toFixed(0)} fps`} />
            <Figure name="Encoded / dropped" value={`${camera.encoded} / ${camera.dropped}`} />
          </dl>
        </>
      )}
      <h2>Storage</h2>
      <dl>
        <Figure name="In this browser" value={bytesText(figures.bytes)} />
        <Figure
          name="Not yet on the server"
          value={
            upload
              ? bytesText(Math.max(0, figures.bytes - upload.sentBytes))
              : figures.recording
                ? bytesText(figures.bytes)
                : '–'
          }
        />
      </dl>
    </aside>
  );
}
