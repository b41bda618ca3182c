import * as contract from '@/contract/jobs';
import { serve } from '@/server/http/serve';
import { listShownJobs } from '@/server/jobs/service';

export const GET = serve(contract.listJobs, async ({ user, query }) => ({
  jobs: await listShownJobs(user, query.all === 'yes'),
}));
