'use client';

import { useSelector } from '@xstate/react';
import { useStore } from 'zustand';
import { bytesText } from '@/core/base/figures';
import { fpsText } from '@/core/base/rational';
import { TRACK_NAMES } from '@/core/recording/take';
import type { Figures as RecorderFigures, VideoFigures } from '@/recorder/messages';
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
  if (
    !figures ||
    (!screen && figures.levels.voice === undefined && figures.levels['app-sound'] === undefined)
  )
    return <aside className="panel mute">Figures appear with the sources.</aside>;
  return (
    <aside className="panel" aria-label="Figures">
      {screen && <ScreenFigures of={screen} recording={figures.recording} />}
      {camera && (
        <Figures
          title="Camera"
          of={[
            { name: 'Captured', value: `${camera.arrivedFps.toFixed(0)} fps` },
            { name: 'Encoded / dropped', value: `${camera.encoded} / ${camera.dropped}` },
          ]}
        />
      )}
      <SoundFigures figures={figures} />
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

function ScreenFigures({ of, recording }: { of: VideoFigures; recording: boolean }) {
  return (
    <>
      <Figures
        title="Screen"
        of={[
          { name: 'Target', value: `${fpsText(of.askedFps)} fps` },
          { name: 'Captured', value: `${of.arrivedFps.toFixed(0)} fps` },
          { name: 'Recorded', value: recording ? `${of.achievedFps.toFixed(0)} fps` : '–', strong: true },
          { name: 'Encoded frames', value: String(of.encoded) },
          { name: 'Repeated, still screen', value: String(of.repeated) },
          { name: 'Skipped, above the target', value: String(of.skipped) },
          { name: 'Dropped by the encoder', value: String(of.dropped), strong: of.dropped > 0 },
          {
            name: 'Encode time, median / p95',
            value: recording ? `${of.encodeP50Ms.toFixed(0)} / ${of.encodeP95Ms.toFixed(0)} ms` : '–',
          },
          { name: 'Encoder queue', value: String(of.queue) },
        ]}
      />
      {of.hintReason && (
        <p className="small mute">
          Text hint {of.textHint ? 'on' : 'off'}: {of.hintReason}.
        </p>
      )}
    </>
  );
}

/** Loudness and peaks of a sound-only take. Beside a picture the deck's meters are enough. */
function SoundFigures({ figures: { video, heard } }: { figures: RecorderFigures }) {
  if (video.screen) return null;
  const text = (value: number | null | undefined, unit: string) =>
    typeof value === 'number' ? `${value.toFixed(1).replace('-', '−')} ${unit}` : '–';
  return (['voice', 'app-sound'] as const).map((role) => {
    const what = heard[role];
    if (!what) return null;
    return (
      <Figures
        key={role}
        title={TRACK_NAMES[role]}
        of={[
          { name: 'Loudness, last 3 s', value: text(what.shortTermLufs, 'LUFS') },
          { name: 'True peak, last 10 s', value: text(what.peakDbtp, 'dBTP') },
          {
            name: 'Clipping',
            value: what.clipped === 0 ? 'none' : `${what.clipped} ${what.clipped === 1 ? 'time' : 'times'}`,
            strong: what.clipped > 0,
          },
        ]}
      />
    );
  });
}
