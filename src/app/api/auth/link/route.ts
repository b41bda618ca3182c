import * as contract from '@/contract/people';
import { serve } from '@/server/http/serve';
import * as people from '@/server/people';

export const POST = serve(contract.lookAtLink, ({ body }) => people.lookAtLink(body.secret));
