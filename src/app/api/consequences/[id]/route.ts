import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { readConsequences } from '@/server/outlooks';

export const GET = serve(contract.readConsequences, ({ user, params }) =>
  readConsequences(user, params.id),
);
