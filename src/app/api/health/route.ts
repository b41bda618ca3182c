import { getHealth } from '@/contract/health';
import { serve } from '@/server/http/serve';
import { checkHealth } from '@/server/health';

export const GET = serve(getHealth, async () => {
  const health = await checkHealth();
  const headers = { 'Cache-Control': 'no-store', ...(health.ok ? {} : { 'Retry-After': '5' }) };
  return Response.json(health, { status: health.ok ? 200 : 503, headers });
});
