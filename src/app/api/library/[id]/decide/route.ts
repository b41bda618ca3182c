import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { decideRelease } from '@/server/entry-places';

export const POST = serve(contract.decideRelease, ({ user, params, body }) =>
  decideRelease(user, params.id, body),
);
