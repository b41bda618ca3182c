import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { arrangeEntry } from '@/server/entry-places';

export const POST = serve(contract.arrangeEntry, ({ user, params, body }) =>
  arrangeEntry(user, params.id, body),
);
