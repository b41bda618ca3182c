import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { takeIn } from '@/server/takings';

export const POST = serve(contract.takeRelease, ({ user, params, body }) =>
  takeIn(user, params.id, body.version, body.materialIds),
);
