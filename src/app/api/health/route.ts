import { route } from '@/server/http/route';
import { health } from '@/server/maintenance/health';

export const dynamic = 'force-dynamic';

export const GET = route({}, async () => {
  const report = await health();
  return Response.json(report, { status: report.ok ? 200 : 503 });
});
