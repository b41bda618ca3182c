import { listPlaces } from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { listPlaces as list } from '@/server/material-search';

export const GET = serve(listPlaces, ({ user, query }) => list(user, query));
