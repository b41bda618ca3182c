import * as contract from '@/contract/material-files';
import { serve } from '@/server/http/serve';
import { saveMaterialFile } from '@/server/material-files';

export const GET = serve(contract.saveMaterialFile, async ({ user, params, query }) => {
  const { name, bytes } = await saveMaterialFile(user, params.id, query.model === 'yes');
  const file = encodeURIComponent(`${name}.zip`);
  return new Response(bytes, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${file}`,
      'Cache-Control': 'no-store',
    },
  });
});
