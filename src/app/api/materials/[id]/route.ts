import * as contract from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { openMaterial, patchMaterial, saveMaterial } from '@/server/materials';

export const GET = serve(contract.openMaterial, ({ user, params }) =>
  openMaterial(user, params.id),
);
export const PUT = serve(contract.saveMaterial, ({ user, params, body }) =>
  saveMaterial(user, params.id, body),
);
export const PATCH = serve(contract.patchMaterial, ({ user, params, body }) =>
  patchMaterial(user, params.id, body),
);
