import { route } from '@/server/http';
import { imageFile } from '@/server/images';

export const GET = route<{ hash: string }>(async (_user, _request, { hash }) => {
  const file = await imageFile(hash);
  return new Response(file.bytes, { headers: { 'Content-Type': file.mediaType, 'Cache-Control': 'private, max-age=31536000, immutable', 'Content-Security-Policy': "default-src 'none'; sandbox" } });
});
