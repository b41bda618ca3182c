import * as contract from '@/contract/images';
import { serve } from '@/server/http/serve';
import { listImages, uploadImage } from '@/server/images';

export const GET = serve(contract.listImages, async () => ({ images: await listImages() }));
export const POST = serve(contract.uploadImage, ({ user, query, readFile, sentBytes }) =>
  uploadImage(user, query, readFile, sentBytes),
);
