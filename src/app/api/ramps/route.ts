import * as contract from '@/contract/ramps';
import { serve } from '@/server/http/serve';
import { keepRamp, listRamps } from '@/server/ramps';

export const GET = serve(contract.listRamps, async ({ user }) => ({
  ramps: await listRamps(user),
}));
export const POST = serve(contract.keepRamp, ({ user, body }) => keepRamp(user, body));
