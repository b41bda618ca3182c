import { notFound } from 'next/navigation';
import { AccountMenu } from '@/features/account/AccountMenu';
import { AppError } from '@/core/base/diagnostic';
import { openEntry, openRelease } from '@/server/library';
import { listModels } from '@/server/models';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../../signed-in';
import { EntryScreen } from './EntryScreen';

export default async function LibraryEntryPage({ params }: { params: Promise<{ id: string }> }) {
  const user = await signedIn();
  const { id } = await params;
  const entry = await openEntry(user, id).catch((error: unknown) => {
    if (error instanceof AppError && error.status === 404) notFound();
    throw error;
  });
  const version = entry.version ?? entry.releases[0]?.version;
  const [release, models] = await Promise.all([
    version === undefined ? null : openRelease(user, id, version),
    listModels(user),
  ]);
  return (
    <div className="flex h-full flex-col">
      <TopBar here="library">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="makes-room min-h-0 flex-1">
        <EntryScreen entry={entry} release={release} models={models} />
      </main>
    </div>
  );
}
