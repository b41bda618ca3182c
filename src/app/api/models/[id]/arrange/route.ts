import * as contract from '@/contract/models';
import { serve } from '@/server/http/serve';
import { arrangeModel } from '@/server/model-places';

export const POST = serve(contract.arrangeModel, ({ user, params, body }) =>
  arrangeModel(user, params.id, body),
);
