import { AppError } from '@/core/base/diagnostic';
import { route, validate } from '@/server/http';
import { keptMap } from '@/server/mesh-maps';
import { mapForm } from '@/server/model-forms';

/** The values of a finished mesh map, deflated 32-bit floats (zlib), where it was measured before; else 204 and the browser measures it. */
export const GET = route<{ id: string }>(async (user, request, { id }) => {
  const bytes = await keptMap(user, id, validate(settingsOf(request), mapForm));
  if (!bytes) return new Response(null, { status: 204 });
  return new Response(new Uint8Array(bytes), { headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, no-store' } });
});

function settingsOf(request: Request): unknown {
  try {
    return JSON.parse(new URL(request.url).searchParams.get('settings') ?? '');
  } catch (cause) {
    throw new AppError('request.not-json', 'The settings of the map are not JSON.', 'Nothing was read.', { cause });
  }
}
