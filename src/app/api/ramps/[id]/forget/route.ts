import * as contract from '@/contract/ramps';
import { serve } from '@/server/http/serve';
import { forgetRamp } from '@/server/ramps';

export const POST = serve(contract.forgetRamp, ({ user, params }) => forgetRamp(user, params.id));
