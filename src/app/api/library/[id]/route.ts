import { route } from '@/server/http';
import { openEntry } from '@/server/library';

export const GET = route<{ id: string }>(async (user, _request, { id }) => Response.json(await openEntry(user, id)));
