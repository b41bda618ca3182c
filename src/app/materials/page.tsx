import { identifier } from '@/contract/forms';
import { STARTERS } from '@/core/starters/starters';
import { findMaterials, listPlaces } from '@/server/material-search';
import { listModels } from '@/server/models';
import { AccountMenu } from '@/features/account/AccountMenu';
import { MaterialsScreen } from '@/features/materials/MaterialsScreen';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';

interface Props {
  readonly searchParams: Promise<Readonly<Record<string, string | string[] | undefined>>>;
}

/** What the address asks for; whatever is no name of a project or set asks for nothing. */
function listingOf(given: Awaited<Props['searchParams']>): { project?: string; set?: string } {
  const named = (name: 'project' | 'set'): Record<string, string> => {
    const value = given[name];
    return typeof value === 'string' && !identifier.validate(value).error ? { [name]: value } : {};
  };
  return { ...named('project'), ...named('set') };
}

export default async function MaterialsPage({ searchParams }: Props) {
  const user = await signedIn();
  const listing = listingOf(await searchParams);
  const [first, places, models] = await Promise.all([
    findMaterials(user, listing),
    listPlaces(user, {}),
    listModels(user),
  ]);
  return (
    <div className="flex h-full flex-col">
      <TopBar here="materials">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <MaterialsScreen
        listing={listing}
        first={first}
        places={places}
        models={models}
        starters={STARTERS.map(({ id, title, help, model }) => ({ id, title, help, model }))}
      />
    </div>
  );
}
