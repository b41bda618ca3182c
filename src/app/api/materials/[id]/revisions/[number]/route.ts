import { openRevision } from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { openMaterial } from '@/server/materials';

export const GET = serve(openRevision, ({ user, params }) =>
  openMaterial(user, params.id, Number(params.number)),
);
