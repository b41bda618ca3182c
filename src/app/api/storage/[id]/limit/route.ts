import * as contract from '@/contract/storage';
import { serve } from '@/server/http/serve';
import { limitProject } from '@/server/storage';

export const POST = serve(contract.limitProject, ({ params, body }) =>
  limitProject(params.id, body.quotaBytes),
);
