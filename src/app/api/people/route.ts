import * as contract from '@/contract/people';
import { serve } from '@/server/http/serve';
import * as people from '@/server/people';

export const GET = serve(contract.listPeople, () => people.listPeople());
