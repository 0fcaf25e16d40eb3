import type { SoundSettings } from '../messages';
import { FromSoundTest, type HeardSound, type ToSoundTest } from './messages';

/**
 * Hears a sound track for some seconds, beside whoever else hears it.
 * @param settings how a take would keep it; null where only its loudness is asked for
 * @throws when the track ends before, or cannot be encoded as wished
 */
export function listenTo(
  track: MediaStreamTrack,
  seconds: number,
  settings: SoundSettings | null,
): Promise<HeardSound> {
  const own = track.clone() as MediaStreamAudioTrack;
  const { readable } = new MediaStreamTrackProcessor({ track: own, maxBufferSize: 200 });
  const worker = new Worker(new URL('./sound-test.worker.ts', import.meta.url), {
    type: 'module',
    name: 'sound test',
  });
  return new Promise<HeardSound>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      const message = FromSoundTest.parse(data);
      if (message.type === 'heard') resolve(message);
      else reject(new Error(message.message));
    };
    worker.onerror = (event) => reject(new Error(event.message));
    const order: ToSoundTest = { readable, seconds, settings };
    worker.postMessage(order, [readable]);
  }).finally(() => {
    own.stop();
    worker.terminate();
  });
}
