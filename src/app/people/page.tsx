import { redirect } from 'next/navigation';
import { AccountMenu } from '@/features/account/AccountMenu';
import { PeopleScreen } from '@/features/people/PeopleScreen';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';

export default async function PeoplePage() {
  const user = await signedIn();
  if (user.role !== 'librarian') redirect('/materials');
  return (
    <div className="flex h-full flex-col">
      <TopBar here="people">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="flex-1 overflow-auto p-5">
        <PeopleScreen own={user.id} />
      </main>
    </div>
  );
}
