import Joi from 'joi';
import { readBody, route } from '@/server/http';
import { withdraw } from '@/server/library';

const body = Joi.object<{ version: string; reason: string }>({ version: Joi.string().max(20).required(), reason: Joi.string().trim().min(3).max(500).required() });

export const POST = route<{ id: string }>(async (user, request, { id }) => {
  const { version, reason } = await readBody(request, body);
  await withdraw(user, id, version, reason);
  return Response.json({ withdrawn: version });
});
