import * as contract from '@/contract/models';
import { serve } from '@/server/http/serve';
import { replaceModelFile } from '@/server/model-places';
import { mendModel, modelFile } from '@/server/models';

export const GET = serve(contract.readModelFile, async ({ user, params, request }) => {
  const { bytes, mediaType, key, preparation } = await modelFile(user, params.id);
  const headers = {
    'Content-Type': mediaType,
    'Cache-Control': 'private, no-cache',
    ETag: `"${key}"`,
    'Bright-Loom-Preparation': JSON.stringify(preparation),
  };
  if (request.headers.get('if-none-match') === headers.ETag) {
    return new Response(null, { status: 304, headers });
  }
  return new Response(new Uint8Array(bytes), { headers });
});
export const PATCH = serve(contract.mendModel, ({ user, params, body }) =>
  mendModel(user, params.id, body),
);
export const PUT = serve(contract.replaceModelFile, ({ user, params, readFile }) =>
  replaceModelFile(user, params.id, readFile),
);
