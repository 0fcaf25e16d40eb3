import { z } from 'zod';
import { SegmentId, TakeId } from '@/core/ids';
import { ProblemError } from '@/core/problem';
import { SegmentHead } from '@/core/take';
import { route } from '@/server/http/route';
import { announceSegment } from '@/server/takes/ingest';

const params = z.object({ take: TakeId, segment: SegmentId });

export const PUT = route({ params, body: SegmentHead }, async ({ params, body }) => {
  if (body.id !== params.segment)
    throw new ProblemError({
      code: 'bad-input',
      message: 'id: is not the segment of the address.',
      field: 'id',
    });
  await announceSegment(params.take, body);
});
