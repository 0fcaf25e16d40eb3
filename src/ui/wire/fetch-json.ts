import { Problem, ProblemError } from '@/core/base/problem';

const LONGEST_KEPT_ALIVE = 20_000;

/**
 * Sends JSON to the studio's own server.
 * @param signal of somebody who may stop waiting: then it ends with the page as well
 * @throws {ProblemError} with what the server said, or that it cannot be reached
 */
export async function fetchJson<T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  const text = body === undefined ? undefined : JSON.stringify(body);
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: text === undefined ? undefined : { 'content-type': 'application/json' },
      body: text,
      signal,
      // Outlives the page that is left in the same moment; browsers take no more than 64 kB that way.
      keepalive: !signal && text !== undefined && text.length < LONGEST_KEPT_ALIVE,
    });
  } catch (cause) {
    signal?.throwIfAborted();
    throw new ProblemError(
      {
        code: 'unreachable',
        message: 'The studio’s server cannot be reached.',
        hint: 'Is npm start still running? What was recorded stays in this browser meanwhile.',
      },
      { cause },
    );
  }
  const data: unknown = await response.json().catch(() => undefined);
  if (response.ok) return data as T;
  const problem = Problem.safeParse(data);
  throw new ProblemError(
    problem.success
      ? problem.data
      : { code: 'unexpected', message: `The server answered ${response.status}.` },
  );
}
