import * as contract from '@/contract/material-files';
import { serve } from '@/server/http/serve';
import { bringMaterialFile } from '@/server/material-files';

export const POST = serve(contract.bringMaterialFile, ({ user, query, readFile }) =>
  bringMaterialFile(user, query.project, readFile),
);
