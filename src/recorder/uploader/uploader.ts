import { createStore } from 'zustand/vanilla';
import { type ToUploader, UploadNews } from './messages';

/** The latest news of the uploader; null before the first. */
export const uploadNews = createStore<{ news: UploadNews | null }>(() => ({ news: null }));

let worker: Worker | null = null;

/** Starts the page's uploader, once, wherever a page of the studio is open. */
export function startUploader(): void {
  if (worker || !('storage' in navigator) || !('locks' in navigator)) return;
  worker = new Worker(new URL('./uploader.worker.ts', import.meta.url), { type: 'module', name: 'uploader' });
  worker.onmessage = ({ data }: MessageEvent<unknown>) => {
    uploadNews.setState({ news: UploadNews.parse(data) });
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
