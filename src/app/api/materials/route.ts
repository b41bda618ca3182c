import * as contract from '@/contract/materials';
import { serve } from '@/server/http/serve';
import { createMaterial, listMaterials } from '@/server/materials';

export const GET = serve(contract.listMaterials, async ({ user }) => ({
  materials: await listMaterials(user),
}));
export const POST = serve(contract.createMaterial, ({ user, body }) => createMaterial(user, body));
