import * as contract from '@/contract/storage';
import { requestTidying } from '@/server/housekeeping';
import { serve } from '@/server/http/serve';

export const POST = serve(contract.tidyStudio, async ({ user }) => {
  await requestTidying(user.id);
  return { asked: 'yes' as const };
});
