import { readBody, route } from '@/server/http';
import { mendingForm } from '@/server/model-forms';
import { mendModel, modelFile } from '@/server/models';

/** The file, with what is mended in it each time it is read. Its tag names both, and so do maps measured of it. */
export const GET = route<{ id: string }>(async (user, request, { id }) => {
  const { bytes, mediaType, key, preparation } = await modelFile(user, id);
  const headers = { 'Content-Type': mediaType, 'Cache-Control': 'private, no-cache', ETag: `"${key}"`, 'Bright-Loom-Preparation': JSON.stringify(preparation) };
  if (request.headers.get('if-none-match') === headers.ETag) return new Response(null, { status: 304, headers });
  return new Response(new Uint8Array(bytes), { headers });
});
export const PATCH = route<{ id: string }>(async (user, request, { id }) => Response.json(await mendModel(user, id, await readBody(request, mendingForm, 65536))));
