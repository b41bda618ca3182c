import * as contract from '@/contract/material-files';
import { serve } from '@/server/http/serve';
import { bringMaterialFile } from '@/server/material-files';

export const POST = serve(contract.bringMaterialFile, ({ user, query, spoolFile, sentBytes }) =>
  bringMaterialFile(user, query.project, spoolFile, sentBytes),
);
