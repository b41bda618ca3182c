import * as contract from '@/contract/people';
import { serve } from '@/server/http/serve';
import * as people from '@/server/people';

export const POST = serve(contract.renameProject, ({ user, params, body }) =>
  people.renameProject(user, params.id, body.name),
);
