import { z } from 'zod';
import { LessonId } from '@/core/base/ids';
import { BinKind } from '@/core/keeping/bin';
import { route } from '@/server/http/route';
import { deleteFromBin, restoreFromBin } from '@/server/maintenance/bin';

// Ids of lessons, takes and parcels have one shape.
const params = z.object({ kind: BinKind, id: LessonId });

/** Puts it back where it was. */
export const POST = route({ params }, ({ params }) => restoreFromBin(params.kind, params.id));

/** Deletes it for good. */
export const DELETE = route({ params }, ({ params }) => deleteFromBin(params.kind, params.id));
