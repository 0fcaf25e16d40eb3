import { Problem, ProblemError } from '@/core/base/problem';

const unreachable = () =>
  new ProblemError({
    code: 'unreachable',
    message: 'The studio cannot be reached.',
    hint: 'Check that it is running, then send the file again.',
  });

/**
 * Sends a file and says how far it is: a plain request cannot tell.
 * @param onSent share of the file that is with the server, 0…1
 * @param signal ends it
 * @returns what the server answers
 * @throws {ProblemError} what the server says, or that it cannot be reached; the signal's reason when it was aborted
 */
export function sendFile(
  url: string,
  file: File,
  onSent: (share: number) => void,
  signal: AbortSignal,
): Promise<unknown> {
  return new Promise((done, failed) => {
    const request = new XMLHttpRequest();
    request.open('POST', url);
    request.responseType = 'json';
    request.upload.onprogress = ({ loaded, total }) => onSent(total > 0 ? loaded / total : 0);
    request.onload = () => {
      const answer: unknown = request.response;
      if (request.status === 200) return done(answer);
      const problem = Problem.safeParse(answer);
      failed(problem.success ? new ProblemError(problem.data) : unreachable());
    };
    request.onerror = () => failed(unreachable());
    request.onabort = () => failed(signal.reason);
    signal.addEventListener('abort', () => request.abort(), { once: true });
    request.send(file);
  });
}
