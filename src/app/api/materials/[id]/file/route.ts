import * as contract from '@/contract/material-files';
import { bundleResponse } from '@/server/bundle';
import { serve } from '@/server/http/serve';
import { saveMaterialFile } from '@/server/material-files';

export const GET = serve(contract.saveMaterialFile, async ({ user, params, query }) => {
  const { name, written } = await saveMaterialFile(user, params.id, query.model === 'yes');
  return bundleResponse(name, written);
});
