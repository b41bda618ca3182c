import * as contract from '@/contract/states';
import { serve } from '@/server/http/serve';
import { forgetState } from '@/server/states';

export const POST = serve(contract.forgetState, ({ user, params }) =>
  forgetState(user, params.id, params.state),
);
