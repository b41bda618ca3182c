import { STARTERS } from '@/core/starters/starters';
import { listMaterials } from '@/server/materials';
import { listModels } from '@/server/models';
import { listProjects } from '@/server/projects';
import { AccountMenu } from '@/features/account/AccountMenu';
import { MaterialsScreen } from '@/features/materials/MaterialsScreen';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';

export default async function MaterialsPage() {
  const user = await signedIn();
  const [materials, models, projects] = await Promise.all([
    listMaterials(user),
    listModels(user),
    listProjects(user),
  ]);
  return (
    <div className="flex h-full flex-col">
      <TopBar here="materials">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <MaterialsScreen
        materials={materials}
        models={models}
        projects={projects}
        starters={STARTERS.map(({ id, title, help, model }) => ({ id, title, help, model }))}
      />
    </div>
  );
}
