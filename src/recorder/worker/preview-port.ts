import type { SeenSource } from './video-track';

/** Gives a preview the newest picture whenever it asks, and never one that it has not asked for. */
export type PreviewPort = {
  /** A picture arrived, or the track was exchanged. */
  readonly offer: (source: SeenSource) => void;
  /** Sends the present picture again at the next chance: the canvas has lost it. */
  readonly again: () => void;
  readonly close: () => void;
};

/**
 * @param port asks with any message, and says "end" when it asks no more
 * @param onEnd called then
 */
export function openPreviewPort(
  port: MessagePort,
  current: () => SeenSource | undefined,
  onEnd?: () => void,
): PreviewPort {
  let wanted = false;
  let sent = -1;
  const offer: PreviewPort['offer'] = (source) => {
    const picture = source.newest();
    if (!wanted || !picture || source.serial() === sent) return;
    const clone = picture.clone();
    port.postMessage(clone, [clone]);
    wanted = false;
    sent = source.serial();
  };
  const offerCurrent = () => {
    const source = current();
    if (source) offer(source);
  };
  const close = () => {
    port.onmessage = null;
    wanted = false;
    // The port stays open: a picture on its way must arrive, or nobody would let it go. This comes after the last one.
    port.postMessage('end');
  };
  port.onmessage = ({ data }: MessageEvent<unknown>) => {
    if (data === 'end') {
      close();
      onEnd?.();
      return;
    }
    wanted = true;
    offerCurrent();
  };
  return {
    offer,
    again: () => {
      sent = -1;
      offerCurrent();
    },
    close,
  };
}
