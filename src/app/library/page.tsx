import { AccountMenu } from '@/features/account/AccountMenu';
import { LibraryBrowser } from '@/features/library/LibraryBrowser';
import { ProposalStrip } from '@/features/library/ProposalStrip';
import { WaitingStrip } from '@/features/library/WaitingStrip';
import { listProjects } from '@/server/projects';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';

export default async function LibraryPage() {
  const user = await signedIn();
  const projects = await listProjects(user);
  return (
    <div className="flex h-full flex-col">
      <TopBar here="library">
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="scaled flex-1 overflow-auto p-5">
        <h1 className="mb-3 text-[18px] font-semibold">Library</h1>
        {user.role === 'librarian' ? <ProposalStrip /> : null}
        <WaitingStrip />
        <LibraryBrowser projects={projects} />
      </main>
    </div>
  );
}
