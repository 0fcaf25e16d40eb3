import { z } from 'zod';
import type { ColourKey } from '@/core/image/colour-key';
import type { Recorder } from '../engine';
import type { MediaRole } from '../messages';

/**
 * Shows a source on a canvas while it is watched and recorded, without a picture passing through the page.
 * @param canvas its control goes to the preview's worker for good
 * @param onKeyMs told what it costs here to take the wall of a picture away, when that has changed
 * @returns what to call when the canvas changes its size or goes
 */
export function openPreview(
  recorder: Pick<Recorder, 'preview' | 'previewState'>,
  role: MediaRole,
  canvas: HTMLCanvasElement,
  onKeyMs: (ms: number) => void,
) {
  const worker = new Worker(new URL('./preview.worker.ts', import.meta.url), {
    type: 'module',
    name: 'preview',
  });
  worker.onmessage = ({ data }: MessageEvent<unknown>) => onKeyMs(z.number().parse(data));
  const channel = new MessageChannel();
  recorder.preview(role, channel.port1);
  const offscreen = canvas.transferControlToOffscreen();
  const size = () => ({ width: Math.max(2, canvas.clientWidth), height: Math.max(2, canvas.clientHeight) });
  worker.postMessage({ canvas: offscreen, port: channel.port2, ...size(), alpha: role === 'camera' }, [
    offscreen,
    channel.port2,
  ]);
  return {
    resize: () => {
      worker.postMessage(size());
      recorder.previewState(role, 'again');
    },
    /** The chroma key, or none. */
    setKey: (key: ColourKey | null) => {
      worker.postMessage({ ...size(), key });
      recorder.previewState(role, 'again');
    },
    close: () => {
      recorder.previewState(role, 'off');
      // A picture may be on its way: it is received and let go, because captures stall when theirs do not come back.
      worker.postMessage({ ...size(), last: true });
    },
  };
}
