import type { RehearsalTrace } from '@/core/rehearsal/frame-trace';
import { pageNowUs, type Recorder } from '../engine';

/** Random bytes, since what repeats would be compressed on the way; so few at once that a slow connection is measured in steps. */
const NOISE_BYTES = 16_384;
const noise = crypto.getRandomValues.bind(crypto);

/**
 * Sends as many bytes to the server as are recorded, which throws them away: the upload of a take would get as far.
 * @param baseUs the take's first instant in the page's clock
 */
export function openUploadCheck(recorder: Pick<Recorder, 'listen'>, baseUs: number) {
  const points: RehearsalTrace['upload'] = [];
  const piece = noise(new Uint8Array(NOISE_BYTES));
  let [recordedBytes, sentBytes] = [0, 0];
  let sending = false;
  const stop = new AbortController();
  const send = async () => {
    if (sending || stop.signal.aborted) return;
    sending = true;
    try {
      while (sentBytes < recordedBytes && !stop.signal.aborted) {
        const bytes = Math.min(NOISE_BYTES, recordedBytes - sentBytes);
        const response = await fetch('/api/upload-check', {
          method: 'POST',
          headers: { 'content-type': 'application/octet-stream' },
          body: piece.subarray(0, bytes),
          signal: stop.signal,
        });
        if (!response.ok) break;
        sentBytes += bytes;
      }
    } catch {
      // A server that cannot be reached receives nothing, which is what the figures then say.
    } finally {
      sending = false;
    }
  };
  const leave = recorder.listen((message) => {
    if (message.type !== 'figures' || !message.figures.recording) return;
    // What was recorded a moment ago had time to be sent; what was recorded since had none.
    points.push({ atUs: Math.max(0, Math.round(pageNowUs() - baseUs)), recordedBytes, sentBytes });
    recordedBytes = message.figures.bytes;
    void send();
  });
  return {
    close: (): RehearsalTrace['upload'] => {
      leave();
      stop.abort();
      return points;
    },
  };
}
