import Link from 'next/link';
import { listMaterials } from '@/server/materials';
import { listModels } from '@/server/models';
import { listProjects } from '@/server/projects';
import { AccountMenu } from '@/features/account/AccountMenu';
import { NewMaterial } from '@/features/materials/NewMaterial';
import { Swatch } from '@/ui/Swatch';
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
      <main className="flex-1 overflow-auto p-5">
        <h1 className="mb-3 text-[18px] font-semibold">Materials</h1>
        <NewMaterial projects={projects} models={models} />
        {materials.length === 0 ? (
          <p className="text-soft">
            Your projects have no materials yet. Make the first one above.
          </p>
        ) : null}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(186px,1fr))] gap-4">
          {materials.map((material) => (
            <li key={material.id}>
              <Link
                href={`/materials/${material.id}`}
                className="block rounded-[3px] border border-line bg-panel p-2 hover:border-weld"
              >
                <Swatch
                  hash={material.swatchHash}
                  label={`${material.name} on ${material.modelName}`}
                />
                <span className="mt-1 block truncate text-[14px] font-semibold">
                  {material.name}
                </span>
                <span className="block truncate text-[12px] text-soft">
                  {material.modelName} · {material.projectName}
                </span>
                <span className="block truncate text-[12px] text-soft">
                  {material.ownerName}, revision <span className="figures">{material.head}</span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </main>
    </div>
  );
}
