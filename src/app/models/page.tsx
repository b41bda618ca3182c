import { AccountMenu } from '@/features/account/AccountMenu';
import { ModelsScreen } from '@/features/models/ModelsScreen';
import { TopBar } from '@/ui/TopBar';
import { listModels } from '@/server/models';
import { listProjects } from '@/server/projects';
import { mayMend } from '@/server/rights';
import { signedIn } from '../signed-in';

export default async function ModelsPage({
  searchParams,
}: {
  searchParams: Promise<{ model?: string | string[] }>;
}) {
  const user = await signedIn();
  const [models, projects, { model }] = await Promise.all([
    listModels(user),
    listProjects(user),
    searchParams,
  ]);
  return (
    <div className="flex h-full flex-col">
      <TopBar here="models">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <ModelsScreen
        models={models.map((each) => ({ ...each, mayMend: mayMend(user.role, each.projectId) }))}
        projects={projects}
        chosen={typeof model === 'string' ? model : ''}
      />
    </div>
  );
}
