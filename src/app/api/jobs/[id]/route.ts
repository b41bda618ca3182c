import * as contract from '@/contract/jobs';
import { serve } from '@/server/http/serve';
import { getShownJob } from '@/server/jobs/service';

export const GET = serve(contract.getJob, ({ user, params }) => getShownJob(user, params.id));
