import { notFound } from 'next/navigation';
import { AccountMenu } from '@/features/account/AccountMenu';
import { EntryPage } from '@/features/library/EntryPage';
import { AppError } from '@/core/base/diagnostic';
import { openEntry } from '@/server/library';
import { mayWithdraw } from '@/server/rights';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../../signed-in';

export default async function LibraryEntryPage({ params }: { params: Promise<{ id: string }> }) {
  const user = await signedIn();
  const { id } = await params;
  const entry = await openEntry(user, id).catch((error: unknown) => {
    if (error instanceof AppError && error.status === 404) notFound();
    throw error;
  });
  return (
    <div className="flex h-full flex-col">
      <TopBar here="library">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="flex-1 scaled overflow-auto p-5">
        <EntryPage entry={entry} mayWithdraw={mayWithdraw(user.role)} />
      </main>
    </div>
  );
}
