import * as contract from '@/contract/sets';
import { serve } from '@/server/http/serve';
import { arrangeSet } from '@/server/sets';

export const POST = serve(contract.arrangeSet, ({ user, params, body }) =>
  arrangeSet(user, params.id, body),
);
