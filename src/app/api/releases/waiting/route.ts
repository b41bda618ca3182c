import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { listWaiting } from '@/server/takings';

export const GET = serve(contract.listWaiting, ({ user, query }) =>
  listWaiting(user, query.material ?? null),
);
