import type { z } from 'zod';
import { ProblemError } from './problem';

/**
 * Reads a document from a file that somebody has chosen.
 * @param fileName for the message
 * @param hint what to do when it is not such a document
 * @throws {ProblemError} `bad-input`, with the place in the file and what is wrong there
 */
export function readJsonFile<T>(shape: z.ZodType<T>, text: string, fileName: string, hint: string): T {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw new ProblemError({ code: 'bad-input', message: `${fileName} is not JSON.`, hint });
  }
  const read = shape.safeParse(json);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  const field = issue?.path.join('.');
  throw new ProblemError({
    code: 'bad-input',
    message: `${fileName}: ${field || 'it'} ${issue?.message ?? 'is not what was expected'}.`,
    hint,
    field: field || undefined,
  });
}
