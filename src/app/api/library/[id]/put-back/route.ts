import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { putBack } from '@/server/takings';

export const POST = serve(contract.putReleaseBack, ({ user, params, body }) =>
  putBack(user, params.id, body.materialIds),
);
