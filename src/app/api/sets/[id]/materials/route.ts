import * as contract from '@/contract/sets';
import { serve } from '@/server/http/serve';
import { fillSet } from '@/server/sets';

export const POST = serve(contract.fillSet, ({ user, params, body }) =>
  fillSet(user, params.id, body),
);
