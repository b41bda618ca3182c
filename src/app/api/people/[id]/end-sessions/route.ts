import * as contract from '@/contract/people';
import { serve } from '@/server/http/serve';
import * as people from '@/server/people';

export const POST = serve(contract.endSessions, ({ user, params }) =>
  people.endSessions(user, params.id),
);
