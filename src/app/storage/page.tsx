import { AccountMenu } from '@/features/account/AccountMenu';
import { StorageScreen } from '@/features/storage/StorageScreen';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';

export default async function StoragePage() {
  const user = await signedIn();
  return (
    <div className="flex h-full flex-col">
      <TopBar here="storage">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="flex-1 overflow-auto p-5">
        <StorageScreen isLibrarian={user.role === 'librarian'} />
      </main>
    </div>
  );
}
