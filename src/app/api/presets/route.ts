import * as contract from '@/contract/presets';
import { serve } from '@/server/http/serve';
import { keepPreset, listPresets } from '@/server/presets';

export const GET = serve(contract.listPresets, ({ user, query }) => listPresets(user, query));
export const POST = serve(contract.keepPreset, ({ user, body }) => keepPreset(user, body));
