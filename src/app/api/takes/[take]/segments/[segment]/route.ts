import { z } from 'zod';
import { SegmentId, TakeId } from '@/core/base/ids';
import { ProblemError } from '@/core/base/problem';
import { SegmentHead } from '@/core/recording/take';
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
