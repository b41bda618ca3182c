import * as contract from '@/contract/revisions';
import { serve } from '@/server/http/serve';
import { notePresence } from '@/server/revisions';

export const POST = serve(contract.notePresence, ({ user, params, body }) =>
  notePresence(user, params.id, body),
);
