import * as contract from '@/contract/models';
import { serve } from '@/server/http/serve';
import { duplicateModel } from '@/server/model-places';

export const POST = serve(contract.duplicateModel, ({ user, params, body }) =>
  duplicateModel(user, params.id, body),
);
