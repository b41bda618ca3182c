import * as contract from '@/contract/sets';
import { serve } from '@/server/http/serve';
import { createSet } from '@/server/sets';

export const POST = serve(contract.createSet, ({ user, body }) => createSet(user, body));
