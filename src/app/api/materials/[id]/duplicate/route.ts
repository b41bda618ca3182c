import * as contract from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { duplicateMaterial } from '@/server/material-places';

export const POST = serve(contract.duplicateMaterial, ({ user, params, body }) =>
  duplicateMaterial(user, params.id, body),
);
