import { ProblemError } from '@/core/base/problem';
import { RECORDED_ELSEWHERE } from '../journal';

/** Takes a lock for as long as the take is recorded, so that nobody else touches its journal. */
export function holdLock(name: string): Promise<() => void> {
  return new Promise((resolve, reject) => {
    navigator.locks
      .request(name, { ifAvailable: true }, (lock) => {
        if (!lock) {
          reject(
            new ProblemError({
              code: RECORDED_ELSEWHERE,
              message: 'Another tab of this browser is recording.',
              hint: 'Stop it there first: two recordings at once would cost both of them frames.',
            }),
          );
          return;
        }
        return new Promise<void>((release) => resolve(release));
      })
      .catch(reject);
  });
}
