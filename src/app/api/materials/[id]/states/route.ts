import * as contract from '@/contract/states';
import { serve } from '@/server/http/serve';
import { keepState, listStates } from '@/server/states';

export const GET = serve(contract.listStates, ({ user, params }) => listStates(user, params.id));
export const POST = serve(contract.keepState, ({ user, params, body }) =>
  keepState(user, params.id, body),
);
