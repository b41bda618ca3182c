import * as contract from '@/contract/library';
import { serve } from '@/server/http/serve';
import { searchLibrary } from '@/server/library';
import { startPublication } from '@/server/publication';

export const GET = serve(contract.searchLibrary, ({ user, query }) => searchLibrary(user, query));
export const POST = serve(contract.publishGroup, ({ user, body }) => startPublication(user, body));
