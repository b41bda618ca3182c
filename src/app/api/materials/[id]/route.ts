import Joi from 'joi';
import { readBody, route } from '@/server/http';
import { openMaterial, saveMaterial } from '@/server/materials';

const body = Joi.object<{ base: number; modelId: string; document: unknown }>({
  base: Joi.number().integer().min(1).required(), modelId: Joi.string().max(80).required(), document: Joi.object().unknown().required(),
});

export const GET = route<{ id: string }>(async (user, _request, { id }) => Response.json(await openMaterial(user, id)));
export const PUT = route<{ id: string }>(async (user, request, { id }) => Response.json(await saveMaterial(user, id, await readBody(request, body))));
