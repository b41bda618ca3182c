import { watchJobs } from '@/contract/jobs';
import { serve } from '@/server/http/serve';
import { jobEvents } from '@/server/jobs/watch';

export const GET = serve(watchJobs, ({ user, request }) =>
  Promise.resolve(jobEvents(user, request.signal)),
);
