import { getSession } from '@/contract/session';
import { serve } from '@/server/http/serve';
import { listProjects } from '@/server/projects';

export const GET = serve(getSession, async ({ user }) => ({
  user,
  projects: await listProjects(user),
}));
