import { z } from 'zod';

/** The one shape in which anything that went wrong is told, by the server and inside the browser alike. */
export const Problem = z.object({
  /** For programs: a stable kebab-case word. */
  code: z.string(),
  /** What was wrong, one sentence. */
  message: z.string(),
  /** What to do now, one sentence. */
  hint: z.string().optional(),
  /** The input it was about, as a path: `rig.picture.frameRate`. */
  field: z.string().optional(),
});
export type Problem = z.infer<typeof Problem>;

/** A `Problem` that can be thrown. */
export class ProblemError extends Error {
  override readonly name = 'ProblemError';
  constructor(
    readonly problem: Problem,
    options?: ErrorOptions,
  ) {
    super(problem.message, options);
  }
}

/** What to tell about anything that was caught. */
export function problemOf(error: unknown): Problem {
  if (error instanceof ProblemError) return error.problem;
  return { code: 'unexpected', message: error instanceof Error ? error.message : String(error) };
}
