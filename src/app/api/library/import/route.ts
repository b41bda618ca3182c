import * as contract from '@/contract/group-files';
import { startBringing } from '@/server/group-files';
import { serve } from '@/server/http/serve';

export const POST = serve(contract.bringGroupFile, ({ user, spoolFile }) =>
  startBringing(user, spoolFile),
);
