import * as contract from '@/contract/library';
import { serve } from '@/server/http/serve';
import { openRelease } from '@/server/library';

export const GET = serve(contract.openRelease, ({ user, params }) =>
  openRelease(user, params.id, params.version),
);
