import type { LiveFilter, Rig } from '@/core/rig/rig';
import { takePicture } from '../look';
import type { Session } from '../session';

/** The picture as it is after scaling. */
export type Scaled = {
  name: LiveFilter;
  /** What scaling a picture costs here; null for the browser's own, which is part of encoding. */
  ms: number | null;
  /** Of its text, seen as large as before (`clarity.ts`); null where no text was found. */
  clarity: number | null;
  picture: ImageBitmap;
};
export type Looked = {
  /** The capture area, unscaled. */
  original: ImageBitmap;
  scaled: Scaled[];
  scale: number;
  /** Where there is text, in the original's pixels. */
  text: { x: number; y: number };
};

/** So much more time a picture may take where it is scaled by a filter of our own while it is recorded. */
export const LIVE_FILTER_MS = 3;

/** Looks at what scaling does to the picture that a session captures now. @throws Error, ProblemError */
export async function lookThrough(
  session: Session,
  { aim, box, fit }: Pick<Rig['picture'], 'aim' | 'box' | 'fit'>,
): Promise<Looked> {
  const picture = await takePicture(session, 'screen');
  const worker = new Worker(new URL('./loupe.worker.ts', import.meta.url), { type: 'module', name: 'loupe' });
  try {
    return await new Promise<Looked>((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<Looked | { error: string }>) =>
        'error' in data ? reject(new Error(data.error)) : resolve(data);
      worker.onerror = (event) => reject(new Error(event.message));
      worker.postMessage({ picture, settings: { aim, box, fit } }, [picture]);
    });
  } finally {
    worker.terminate();
  }
}
