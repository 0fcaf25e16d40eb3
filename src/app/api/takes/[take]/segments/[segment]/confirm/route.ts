import { z } from 'zod';
import { SegmentId, TakeId } from '@/core/base/ids';
import { ConfirmPart } from '@/core/recording/take';
import { route } from '@/server/http/route';
import { confirmPart } from '@/server/takes/ingest';

const params = z.object({ take: TakeId, segment: SegmentId });

export const POST = route({ params, body: ConfirmPart }, ({ params, body }) =>
  confirmPart(params.take, params.segment, body),
);
