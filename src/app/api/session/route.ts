import { listProjects } from '@/db/queries/materials';
import { route } from '@/server/http';

export const GET = route(async (user) => Response.json({ user, projects: await listProjects(user.id) }));
