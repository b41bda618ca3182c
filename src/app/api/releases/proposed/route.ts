import * as contract from '@/contract/shelf';
import { serve } from '@/server/http/serve';
import { listProposals } from '@/server/entry-places';

export const GET = serve(contract.listProposals, ({ user }) => listProposals(user));
