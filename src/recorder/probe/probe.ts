import { ProblemError } from '@/core/base/problem';
import type { FrameRate } from '@/core/base/rational';
import type { Size } from '@/core/base/sizes';
import type { VideoSettings } from '../messages';
import type { Session } from '../session';
import { FromProbe, type ToProbe } from './messages';

type Answer<T extends FromProbe['type']> = Extract<FromProbe, { type: T }>;

/** One worker for one question; it ends with the answer, or when nobody waits for it any more. */
function ask<T extends 'speeds' | 'marks'>(
  type: T,
  order: ToProbe,
  transfer: Transferable[],
  signal: AbortSignal,
): Promise<Answer<T>> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./probe.worker.ts', import.meta.url), {
      type: 'module',
      name: 'probe',
    });
    const end = () => worker.terminate();
    signal.addEventListener('abort', () => {
      // Frames that were shared with it must come back: a worker that inspects some ends with its answer.
      if (type === 'speeds') end();
      reject(signal.reason);
    });
    worker.onmessage = ({ data }: MessageEvent<unknown>) => {
      end();
      const answer = FromProbe.parse(data);
      if (answer.type === 'problem') reject(new ProblemError(answer.problem));
      else if (answer.type === type) resolve(answer as Answer<T>);
    };
    worker.onerror = (event) => {
      end();
      reject(new Error(event.message));
    };
    worker.postMessage(order, transfer);
  });
}

/** How fast this browser's encoders are at a picture size, measured on practice content. */
export const probeSpeeds = (picture: Size, rate: FrameRate, signal: AbortSignal) =>
  ask('speeds', { type: 'speeds', picture, rate }, [], signal).then(({ speeds }) => speeds);

/** What bitrates do to the picture that a session captures now. */
export function probeMarks(session: Session, settings: VideoSettings, signal: AbortSignal) {
  const { port1, port2 } = new MessageChannel();
  session.sample('screen', port1);
  return ask('marks', { type: 'marks', port: port2, settings }, [port2], signal);
}
