import * as contract from '@/contract/jobs';
import { serve } from '@/server/http/serve';
import { cancelJob } from '@/server/jobs/service';

export const POST = serve(contract.cancelJob, ({ user, params }) => cancelJob(user, params.id));
