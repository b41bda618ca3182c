import { readMapSettings } from '@/contract/model-forms';
import { readMeshMap } from '@/contract/models';
import { serve } from '@/server/http/serve';
import { findStoredMap } from '@/server/mesh-maps';

export const GET = serve(readMeshMap, async ({ user, params, query }) => {
  const bytes = await findStoredMap(user, params.id, readMapSettings(query.settings));
  const headers = { 'Cache-Control': 'no-store' };
  if (!bytes) return new Response(null, { status: 204, headers });
  return new Response(new Uint8Array(bytes), {
    headers: { ...headers, 'Content-Type': 'application/octet-stream' },
  });
});
