import { route } from '@/server/http/route';

export const dynamic = 'force-dynamic';

/** Receives what a rehearsal would upload, and stores nothing of it. */
export const POST = route({}, async ({ request }) => {
  let bytes = 0;
  const reader = request.body?.getReader();
  for (;;) {
    const piece = await reader?.read();
    if (!piece || piece.done) return { bytes };
    bytes += piece.value.length;
  }
});
