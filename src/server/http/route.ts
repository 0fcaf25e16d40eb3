import type { z } from 'zod';
import { type Problem, ProblemError } from '@/core/base/problem';
import { config } from '../process/config';
import { log } from '../process/log';
import { FOREIGN_REQUEST, isOwnRequest } from '../process/origin';

/** The longest JSON document anybody has reason to send: a take's end with thousands of pauses and segments. */
const LONGEST_JSON_BYTES = 2_000_000;

const STATUS: Record<string, number> = {
  'bad-input': 400,
  'foreign-request': 403,
  'not-found': 404,
  conflict: 409,
  'hash-differs': 409,
  'lesson-gone': 409,
  'too-large': 413,
  'bad-media': 422,
  'no-picture': 422,
  'no-frame': 422,
  'disk-full': 507,
};

export const statusOf = (problem: Problem): number => STATUS[problem.code] ?? 500;
export const problemResponse = (problem: Problem): Response =>
  Response.json(problem, { status: statusOf(problem) });

type Shapes<P, B> = { params?: z.ZodType<P>; body?: z.ZodType<B> };
type Context = { params: Promise<Record<string, string | string[] | undefined>> };

/**
 * One JSON route: refuses foreign requests, parses parameters and body once, and answers every error in one shape.
 * @param shapes what the address and the body must be
 * @param handle gets parsed values; returns a `Response`, or data that is sent as JSON
 */
export function route<P, B>(
  shapes: Shapes<P, B>,
  handle: (input: { params: P; body: B; request: Request }) => Promise<unknown>,
) {
  return async (request: Request, context: Context): Promise<Response> => {
    try {
      guard(request);
      const params = shapes.params ? parse(shapes.params, await context.params, 'address') : (undefined as P);
      const body = shapes.body ? parse(shapes.body, await json(request), '') : (undefined as B);
      const result = await handle({ params, body, request });
      return result instanceof Response ? result : Response.json(result ?? { ok: true });
    } catch (error) {
      if (error instanceof ProblemError) return problemResponse(error.problem);
      // Whoever asked has gone: nobody reads the answer.
      if (request.signal.aborted) return new Response(null, { status: 408 });
      log().error({ err: error, path: new URL(request.url).pathname }, 'request failed');
      return problemResponse({
        code: 'unexpected',
        message: 'The studio met an error of its own.',
        hint: 'Try again. If it stays, logs/web.log in the data folder says more.',
      });
    }
  };
}

/** @throws {ProblemError} `foreign-request` */
export function guard(request: Request): void {
  const { headers } = request;
  if (!isOwnRequest(headers.get('host'), headers.get('origin'), config().allowedHosts))
    throw new ProblemError(FOREIGN_REQUEST);
}

async function json(request: Request): Promise<unknown> {
  const length = Number(request.headers.get('content-length') ?? 0);
  const text = length > LONGEST_JSON_BYTES ? '' : await request.text();
  if (length > LONGEST_JSON_BYTES || text.length > LONGEST_JSON_BYTES)
    throw new ProblemError({ code: 'too-large', message: 'The body of the request is too long.' });
  try {
    return JSON.parse(text);
  } catch {
    throw new ProblemError({ code: 'bad-input', message: 'The body of the request is not JSON.' });
  }
}

function parse<T>(shape: z.ZodType<T>, value: unknown, where: string): T {
  const result = shape.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0];
  const field = [where, ...(issue?.path ?? [])].filter((part) => part !== '').join('.');
  throw new ProblemError({
    code: 'bad-input',
    message: `${field || 'The body'}: ${issue?.message ?? 'is not what was expected'}.`,
    field: field || undefined,
  });
}

/** @throws {ProblemError} `not-found`, when there is no value */
export function found<T>(value: T | null | undefined, what: string): T {
  if (value === null || value === undefined)
    throw new ProblemError({
      code: 'not-found',
      message: `There is no such ${what}.`,
      hint: 'It may have been deleted.',
    });
  return value;
}
