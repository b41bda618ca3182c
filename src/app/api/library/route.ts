import * as contract from '@/contract/library';
import { serve } from '@/server/http/serve';
import { searchLibrary, startPublication } from '@/server/library';

export const GET = serve(contract.searchLibrary, ({ user, query }) =>
  searchLibrary(user, query.query ?? '', query.rack ?? null),
);
export const POST = serve(contract.publishGroup, ({ user, body }) => startPublication(user, body));
