import { ProblemError } from '@/core/base/problem';
import type { Session } from './session';

/**
 * One picture of a source as it is now. Close it soon: a capture whose pictures are kept stalls.
 * @throws ProblemError when none comes within five seconds
 */
export function takePicture(
  session: Pick<Session, 'sample'>,
  role: 'screen' | 'camera',
): Promise<VideoFrame> {
  const { port1, port2 } = new MessageChannel();
  session.sample(role, port1);
  return new Promise((resolve, reject) => {
    let taken = false;
    const late = setTimeout(() => {
      // One that comes after all is for nobody.
      taken = true;
      port2.postMessage('end');
      reject(
        new ProblemError({
          code: 'no-picture',
          message: 'No picture came.',
          hint: 'Check that the source is open.',
        }),
      );
    }, 5000);
    port2.onmessage = ({ data }: MessageEvent<VideoFrame | 'end'>) => {
      if (data === 'end') return port2.close();
      if (taken) return data.close();
      taken = true;
      clearTimeout(late);
      port2.postMessage('end');
      resolve(data);
    };
    port2.postMessage('next');
  });
}

/** Around the place that was pointed at: noise is averaged out. */
const PICKED = 9;

/**
 * The colour of a source's picture at a place.
 * @param at shares of its width and height, 0 … 1
 * @returns #rrggbb
 */
export async function pickColour(
  session: Pick<Session, 'sample'>,
  role: 'screen' | 'camera',
  at: { x: number; y: number },
): Promise<string> {
  const picture = await takePicture(session, role);
  const canvas = new OffscreenCanvas(PICKED, PICKED);
  const pen = canvas.getContext('2d', { willReadFrequently: true });
  if (!pen) throw new Error('This browser gives no canvas to read a colour from.');
  const { displayWidth: width, displayHeight: height } = picture;
  const left = Math.round(Math.min(width - PICKED, Math.max(0, at.x * width - PICKED / 2)));
  const top = Math.round(Math.min(height - PICKED, Math.max(0, at.y * height - PICKED / 2)));
  pen.drawImage(picture, left, top, PICKED, PICKED, 0, 0, PICKED, PICKED);
  picture.close();
  const { data } = pen.getImageData(0, 0, PICKED, PICKED);
  const mean = [0, 1, 2].map((channel) => {
    let sum = 0;
    for (let i = channel; i < data.length; i += 4) sum += data[i] ?? 0;
    return Math.round(sum / (PICKED * PICKED));
  });
  return `#${mean.map((level) => level.toString(16).padStart(2, '0')).join('')}`;
}
