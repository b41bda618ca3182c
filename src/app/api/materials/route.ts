import Joi from 'joi';
import { listMaterials } from '@/db/queries/materials';
import { readBody, route } from '@/server/http';
import { createMaterial } from '@/server/materials';

const body = Joi.object<{ projectId: string; modelId: string; document: unknown }>({
  projectId: Joi.string().max(80).required(), modelId: Joi.string().max(80).required(), document: Joi.object().unknown().required(),
});

export const GET = route(async (user) => Response.json({ materials: await listMaterials(user.id) }));
export const POST = route(async (user, request) => Response.json(await createMaterial(user, await readBody(request, body)), { status: 201 }));
