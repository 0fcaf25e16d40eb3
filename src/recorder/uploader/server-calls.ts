import { LessonId, type SegmentId, type TakeId } from '@/core/base/ids';
import { Problem, ProblemError } from '@/core/base/problem';
import type { SegmentHead, SegmentPart, TakeEnd, TakeHead } from '@/core/recording/take';
import { ANSWER_MS, begin, send, standing, type Upload } from './tus';

/** What the uploader asks of the server. All of it may be asked again: the second time changes nothing. */
export type ServerCalls = {
  announceTake: (head: TakeHead) => Promise<unknown>;
  announceSegment: (take: TakeId, segment: SegmentHead) => Promise<unknown>;
  /** Where an upload stands; null when the server has none of that name. */
  standing: (segment: SegmentId, part: SegmentPart) => Promise<Upload | null>;
  /** Null when the server has the segment already. */
  begin: (segment: SegmentId, part: SegmentPart) => Promise<Upload | null>;
  /** @returns the new offset */
  send: (upload: Upload, bytes: Blob, length?: number) => Promise<number>;
  confirm: (
    take: TakeId,
    segment: SegmentId,
    part: SegmentPart,
    bytes: number,
    sha256: string,
  ) => Promise<unknown>;
  end: (take: TakeId, end: TakeEnd) => Promise<unknown>;
  discard: (take: TakeId) => Promise<unknown>;
  makeLesson: (title: string) => Promise<LessonId>;
};

async function call(method: 'PUT' | 'POST' | 'DELETE', path: string, body?: unknown): Promise<unknown> {
  const response = await fetch(path, {
    method,
    headers: { 'content-type': 'application/json' },
    body: body === undefined ? undefined : JSON.stringify(body),
    // Confirming reads the whole segment on the server.
    signal: AbortSignal.timeout(4 * ANSWER_MS),
  }).catch((cause) => {
    throw new ProblemError({ code: 'unreachable', message: 'The server cannot be reached.' }, { cause });
  });
  if (response.ok) return response.json();
  const problem = Problem.safeParse(await response.json().catch(() => null));
  throw new ProblemError(
    problem.success
      ? problem.data
      : { code: 'unexpected', message: `The server answered ${response.status}.` },
  );
}

export const SERVER: ServerCalls = {
  announceTake: (head) => call('PUT', `/api/takes/${head.id}`, head),
  announceSegment: (take, segment) => call('PUT', `/api/takes/${take}/segments/${segment.id}`, segment),
  standing,
  begin,
  send,
  confirm: (take, segment, part, bytes, sha256) =>
    call('POST', `/api/takes/${take}/segments/${segment}/confirm`, { part, bytes, sha256 }),
  end: (take, end) => call('POST', `/api/takes/${take}/end`, end),
  discard: (take) => call('DELETE', `/api/takes/${take}`),
  makeLesson: async (title) =>
    LessonId.parse(((await call('POST', '/api/lessons', { title })) as { id?: unknown }).id),
};
