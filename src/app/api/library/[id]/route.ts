import * as contract from '@/contract/library';
import { serve } from '@/server/http/serve';
import { openEntry } from '@/server/library';

export const GET = serve(contract.openEntry, ({ user, params }) => openEntry(user, params.id));
