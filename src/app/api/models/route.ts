import { listModels } from '@/db/queries/models';
import { route } from '@/server/http';
import { uploadModel } from '@/server/models';

export const GET = route(async (user) => Response.json({ models: await listModels(user.id) }));
export const POST = route(async (user, request) => Response.json(await uploadModel(user, request), { status: 201 }));
