import { AccountMenu } from '@/features/account/AccountMenu';
import { ProposalStrip } from '@/features/library/ProposalStrip';
import { WaitingStrip } from '@/features/library/WaitingStrip';
import { listProjects } from '@/server/projects';
import { TopBar } from '@/ui/TopBar';
import { signedIn } from '../signed-in';
import { Shelves } from './Shelves';

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
        <Shelves projects={projects} />
      </main>
    </div>
  );
}
