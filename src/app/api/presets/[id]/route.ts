import * as contract from '@/contract/presets';
import { serve } from '@/server/http/serve';
import { openStarter } from '@/server/starters';

export const GET = serve(contract.openStarter, ({ user, params }) => openStarter(user, params.id));
