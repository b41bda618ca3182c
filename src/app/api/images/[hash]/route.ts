import { readImage } from '@/contract/images';
import { fileResponse } from '@/server/http/file-response';
import { serve } from '@/server/http/serve';
import { imageFile } from '@/server/images';

export const GET = serve(readImage, async ({ params }) =>
  fileResponse(await imageFile(params.hash)),
);
