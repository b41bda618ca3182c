import * as contract from '@/contract/group-files';
import { bundleResponse } from '@/server/bundle';
import { saveEntryFile } from '@/server/group-files';
import { serve } from '@/server/http/serve';

export const GET = serve(contract.saveEntryFile, async ({ user, params }) => {
  const { name, written } = await saveEntryFile(user, params.id);
  return bundleResponse(name, written);
});
