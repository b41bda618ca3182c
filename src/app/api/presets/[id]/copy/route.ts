import * as contract from '@/contract/presets';
import { serve } from '@/server/http/serve';
import { copyPreset } from '@/server/presets';

export const POST = serve(contract.copyPreset, ({ user, params, body }) =>
  copyPreset(user, params.id, body),
);
