import Joi from 'joi';
import type { PublicationRequest } from '@/db/schema/studio';
import { readBody, route } from '@/server/http';
import { searchLibrary, startPublication } from '@/server/library';

const name = Joi.string().trim().min(2).max(80);
const body = Joi.object<PublicationRequest>({
  materialId: Joi.string().max(80).required(), revision: Joi.number().integer().min(1).required(), groupId: Joi.string().max(80).required(),
  rack: Joi.string().max(100).pattern(/^(studio|project:[A-Za-z0-9_-]+)$/).required(), version: Joi.string().pattern(/^\d{1,4}\.\d{1,4}\.\d{1,4}$/).required(),
  name: name.required(), description: Joi.string().allow('').max(2000).required(), tags: Joi.array().items(Joi.string().trim().min(1).max(40)).max(20).required(),
});

export const GET = route(async (user, request) => {
  const { searchParams } = new URL(request.url);
  return Response.json(await searchLibrary(user, (searchParams.get('query') ?? '').slice(0, 200), searchParams.get('rack')));
});
export const POST = route(async (user, request) => Response.json(await startPublication(user, await readBody(request, body)), { status: 202 }));
