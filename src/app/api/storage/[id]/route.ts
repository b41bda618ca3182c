import * as contract from '@/contract/storage';
import { serve } from '@/server/http/serve';
import { readHoldings } from '@/server/storage';

export const GET = serve(contract.readHoldings, ({ user, params }) =>
  readHoldings(user, params.id),
);
