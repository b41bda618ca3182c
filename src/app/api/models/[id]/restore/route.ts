import * as contract from '@/contract/models';
import { serve } from '@/server/http/serve';
import { restoreModelFile } from '@/server/model-places';

export const POST = serve(contract.restoreModelFile, ({ user, params }) =>
  restoreModelFile(user, params.id),
);
