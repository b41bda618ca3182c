import * as contract from '@/contract/storage';
import { serve } from '@/server/http/serve';
import { removeHolding } from '@/server/removal';

export const POST = serve(contract.removeHolding, ({ user, params, body }) =>
  removeHolding(user, params.id, body),
);
