import { route } from '@/server/http';
import { modelFile } from '@/server/models';

export const GET = route<{ id: string }>(async (user, _request, { id }) => {
  const { bytes, mediaType, hash } = await modelFile(user, id);
  return new Response(new Uint8Array(bytes), { headers: { 'Content-Type': mediaType, 'Cache-Control': 'private, max-age=3600', ETag: `"${hash}"` } });
});
