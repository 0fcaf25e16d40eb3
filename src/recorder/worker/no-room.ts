import { ProblemError } from '@/core/base/problem';

/** The browser's storage takes nothing more, which ends a take. */
export function noRoom(cause?: unknown): ProblemError {
  return new ProblemError(
    {
      code: 'journal-full',
      message: 'The browser’s storage is full.',
      hint: 'The recording was ended in time; everything up to here is kept. Free some space on this disk.',
    },
    { cause },
  );
}
