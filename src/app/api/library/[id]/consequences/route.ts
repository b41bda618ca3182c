import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { askConsequences } from '@/server/outlooks';

export const POST = serve(contract.askConsequences, ({ user, params, body }) =>
  askConsequences(user, params.id, body),
);
