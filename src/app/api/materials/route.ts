import * as contract from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { findMaterials } from '@/server/material-search';
import { createMaterial } from '@/server/materials';

export const GET = serve(contract.findMaterials, ({ user, query }) => findMaterials(user, query));
export const POST = serve(contract.createMaterial, ({ user, body }) => createMaterial(user, body));
