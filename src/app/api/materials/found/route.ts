import { findMaterials } from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { findMaterials as find } from '@/server/material-search';

export const GET = serve(findMaterials, ({ user, query }) => find(user, query));
