import { getSession } from '@/contract/session';
import { serve } from '@/server/http/serve';
import { listProjects } from '@/server/projects';
import { readRules } from '@/server/rules';

export const GET = serve(getSession, async ({ user }) => {
  const [projects, { naming, studioRack, projectRacks }] = await Promise.all([
    listProjects(user),
    readRules(),
  ]);
  const { role } = user;
  const publishes = { studio: studioRack.includes(role), projects: projectRacks.includes(role) };
  return { user, projects, naming, publishes };
});
