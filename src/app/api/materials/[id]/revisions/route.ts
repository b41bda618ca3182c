import * as contract from '@/contract/revisions';
import { serve } from '@/server/http/serve';
import { listRevisions } from '@/server/revisions';

export const GET = serve(contract.listRevisions, ({ user, params, query }) =>
  listRevisions(user, params.id, query.before),
);
