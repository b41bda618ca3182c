import { withdrawRelease } from '@/contract/library';
import { serve } from '@/server/http/serve';
import { withdraw } from '@/server/entry-places';

export const POST = serve(withdrawRelease, async ({ user, params, body }) => {
  await withdraw(user, params.id, body.version, body.reason);
  return { withdrawn: body.version };
});
