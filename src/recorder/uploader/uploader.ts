import { type ToUploader, UploadNews } from './messages';

const listeners = new Set<(news: UploadNews) => void>();
let latest: UploadNews | null = null;
let worker: Worker | null = null;

/** Starts the page's uploader, once, wherever a page of the studio is open. */
export function startUploader(): void {
  if (worker || !('storage' in navigator) || !('locks' in navigator)) return;
  worker = new Worker(new URL('./uploader.worker.ts', import.meta.url), { type: 'module', name: 'uploader' });
  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    latest = UploadNews.parse(data);
    for (const listener of listeners) listener(latest);
  };
  window.addEventListener('online', hurryUploader);
}

/** Looks at the journal now, not at the next round. */
export const hurryUploader = (): void => say({ type: 'now' });

/** Puts a take whose lesson was deleted into a new lesson. */
export const adoptTake = (key: string): void => say({ type: 'adopt', key });

/** Makes a recording whose description is damaged a take again, from its media, in a new lesson. */
export const recoverTake = (key: string): void => say({ type: 'recover', key });

/** Deletes a recording from this browser for good. */
export const deleteRecording = (key: string): void => say({ type: 'delete', key });

const say = (message: ToUploader) => worker?.postMessage(message);

/** For `useSyncExternalStore`: the latest news of the uploader. */
export const uploadNews = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => {
      listeners.delete(listener);
    };
  },
  get: (): UploadNews | null => latest,
};
