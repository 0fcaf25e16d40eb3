import { ProblemError } from '@/core/base/problem';

/** Something that a track is made by has failed: an ordinary event, which ends its segment and not the take. */
export type Fault = { part: 'encoder' | 'muxer' | 'file'; error: unknown };

/** One sentence of what failed, in the words of whoever reads the take. */
export const faultText = ({ part, error }: Fault): string => {
  if (error instanceof ProblemError) return error.problem.message;
  const said = error instanceof Error ? error.message : String(error);
  return (
    { encoder: 'The encoder failed', muxer: 'The muxer failed', file: 'Writing the file failed' }[part] +
    (said ? `: ${said}` : '.')
  );
};
