import { readPicture } from '@/contract/images';
import { AppError } from '@/core/base/diagnostic';
import { fileResponse } from '@/server/http/file-response';
import { serve } from '@/server/http/serve';
import { findPicture } from '@/server/pictures';

export const GET = serve(readPicture, async ({ user, params }) => {
  const file = await findPicture(user, params.hash);
  if (!file) throw new AppError('blob.not-found', 'There is no such picture.', '', { status: 404 });
  return fileResponse(file);
});
