import * as contract from '@/contract/states';
import { serve } from '@/server/http/serve';
import { tellState } from '@/server/states';

export const POST = serve(contract.tellState, ({ user, params, body }) =>
  tellState(user, params.id, params.state, body),
);
