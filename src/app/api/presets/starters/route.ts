import * as contract from '@/contract/presets';
import { serve } from '@/server/http/serve';
import { keepStarter } from '@/server/starters';

export const POST = serve(contract.keepStarter, ({ user, body }) => keepStarter(user, body));
