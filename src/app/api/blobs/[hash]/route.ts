import { AppError } from '@/core/base/diagnostic';
import { findPicture } from '@/server/pictures';
import { route } from '@/server/http';

export const GET = route<{ hash: string }>(async (user, _request, { hash }) => {
  const file = /^[0-9a-f]{64}$/.test(hash) ? await findPicture(user, hash) : undefined;
  if (!file) throw new AppError('blob.not-found', 'There is no such picture.', '', { status: 404 });
  return new Response(new Uint8Array(file.bytes), { headers: { 'Content-Type': file.mediaType, 'Cache-Control': 'private, max-age=31536000, immutable' } });
});
