import * as contract from '@/contract/presets';
import { serve } from '@/server/http/serve';
import { arrangePreset } from '@/server/presets';

export const POST = serve(contract.arrangePreset, ({ user, params, body }) =>
  arrangePreset(user, params.id, body),
);
