import { z } from 'zod';
import { LessonId } from '@/core/base/ids';

/** Tells the browser's other tabs of a recording, and brings their settings to end it. */
const CHANNEL = 'recording';

export const RecordingNews = z.object({
  type: z.literal('news'),
  tab: z.string(),
  state: z.enum(['recording', 'paused', 'ended']),
  lesson: z.object({ id: LessonId, title: z.string() }),
  elapsedUs: z.number(),
});
export type RecordingNews = z.infer<typeof RecordingNews>;
const Message = z.discriminatedUnion('type', [
  RecordingNews,
  z.object({ type: z.literal('stop'), tab: z.string() }),
]);

/** This tab's name among the others. */
const ownTab = (): string => {
  tabName ??= crypto.randomUUID();
  return tabName;
};
let tabName: string | undefined;

/** A tab that is silent for this long is gone, or its recording is. */
export const SILENT_MS = 4000;

export type RecordingChannel = {
  tell: (news: Omit<RecordingNews, 'type' | 'tab'>) => void;
  stop: (tab: string) => void;
  close: () => void;
};

/**
 * @param onNews another tab records
 * @param onStop another tab asks this one to stop
 */
export function openRecordingChannel(
  onNews: (news: RecordingNews) => void,
  onStop: () => void,
): RecordingChannel {
  const channel = new BroadcastChannel(CHANNEL);
  channel.onmessage = ({ data }: MessageEvent<unknown>) => {
    const message = Message.safeParse(data);
    if (!message.success) return;
    if (message.data.type === 'news') onNews(message.data);
    else if (message.data.tab === ownTab()) onStop();
  };
  return {
    tell: (news) => channel.postMessage({ type: 'news', tab: ownTab(), ...news }),
    stop: (tab) => channel.postMessage({ type: 'stop', tab }),
    close: () => channel.close(),
  };
}
