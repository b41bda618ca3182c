import * as contract from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { openMaterial, saveMaterial } from '@/server/materials';

export const GET = serve(contract.openMaterial, ({ user, params }) =>
  openMaterial(user, params.id),
);
export const PUT = serve(contract.saveMaterial, ({ user, params, body }) =>
  saveMaterial(user, params.id, body),
);
