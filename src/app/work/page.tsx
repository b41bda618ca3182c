import { AccountMenu } from '@/features/account/AccountMenu';
import { WorkScreen } from '@/features/work/WorkScreen';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';

export default async function WorkPage() {
  const user = await signedIn();
  return (
    <div className="flex h-full flex-col">
      <TopBar here="work">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="flex-1 overflow-auto p-5">
        <WorkScreen maySeeAll={user.role === 'librarian'} />
      </main>
    </div>
  );
}
