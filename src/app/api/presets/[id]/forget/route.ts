import * as contract from '@/contract/presets';
import { serve } from '@/server/http/serve';
import { forgetPreset } from '@/server/presets';

export const POST = serve(contract.forgetPreset, ({ user, params }) =>
  forgetPreset(user, params.id),
);
