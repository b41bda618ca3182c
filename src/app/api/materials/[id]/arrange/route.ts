import * as contract from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { arrangeMaterial } from '@/server/material-places';

export const POST = serve(contract.arrangeMaterial, ({ user, params, body }) =>
  arrangeMaterial(user, params.id, body),
);
