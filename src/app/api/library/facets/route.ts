import * as contract from '@/contract/library';
import { serve } from '@/server/http/serve';
import { countFacets } from '@/server/library';

export const GET = serve(contract.countFacets, ({ user, query }) => countFacets(user, query));
