import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { copyEntry } from '@/server/entry-places';

export const POST = serve(contract.copyEntry, ({ user, params, body }) =>
  copyEntry(user, params.id, body),
);
