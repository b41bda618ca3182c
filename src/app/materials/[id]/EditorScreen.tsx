'use client';
import { useState } from 'react';
import type { ModelEntry } from '@/contract/models';
import type { Project } from '@/contract/session';
import type { Problem } from '@/core/base/problem';
import { AccountMenu } from '@/features/account/AccountMenu';
import { BakeSheet } from '@/features/bake/BakeSheet';
import { ExplainSheet } from '@/features/explain/ExplainSheet';
import { FiguresSheet } from '@/features/figures/FiguresSheet';
import { LibrarySheet } from '@/features/library/LibrarySheet';
import { PublishSheet } from '@/features/library/PublishSheet';
import { ReleasesSheet } from '@/features/library/ReleasesSheet';
import { StatesSheet } from '@/features/states/StatesSheet';
import { showPalettes } from '@/features/presets/Palettes';
import { PapersSheet } from '@/features/papers/PapersSheet';
import { SaverContext } from '@/state/keeping';
import { useDocument, useOpenGroup } from '@/state/use-stores';
import { PaletteSlot } from '@/ui/palette-slot';
import { ProblemNote } from '@/ui/ProblemNote';
import { TopBar } from '@/ui/TopBar';
import { ClashDialog } from './ClashDialog';
import { EditorBar } from './EditorBar';
import { EditorPanels } from './EditorPanels';
import { useEditorModels, useEditorSession } from './use-editor-session';
import type { Session } from './use-editor-session';

interface Props {
  readonly materialId: string;
  readonly models: readonly ModelEntry[];
  readonly projects: readonly Project[];
  readonly user: { readonly id: string; readonly name: string; readonly role: string };
}
type SheetName = 'bake' | 'library' | 'publish' | 'papers' | 'releases' | 'states';

/** An open material: the bar over it, its panels, and the sheets that come over them. */
export function EditorScreen({ materialId, models: initialModels, projects, user }: Props) {
  const { session, failure, clash, endClash } = useEditorSession(
    materialId,
    initialModels,
    user.id,
  );
  const { models, change, drop } = useEditorModels(session, initialModels, user.name);
  const name = useDocument((state) => state.document.name);
  const [sheet, setSheet] = useState<SheetName | null>(null);
  if (failure) return <Unopened failure={failure} />;
  return (
    <DropTarget onFile={drop}>
      <TopBar here="editor">
        {session ? (
          <EditorBar
            models={models}
            saver={session.saver}
            project={projects.find(({ id }) => id === session.projectId)?.name ?? ''}
            onModel={change}
            onSheet={setSheet}
          />
        ) : (
          <span className="text-soft">Opening …</span>
        )}
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      <main className="makes-room flex min-h-0 flex-1 flex-col">
        <h1 className="sr-only">{name}</h1>
        {session ? (
          <SaverContext value={session.saver}>
            <EditorPanels
              evaluation={session.evaluation}
              models={models}
              onPublish={() => {
                setSheet('publish');
              }}
              onPapers={() => {
                setSheet('papers');
              }}
            />
          </SaverContext>
        ) : null}
      </main>
      <EditorSheets
        session={session}
        sheet={sheet}
        models={models}
        onModel={change}
        onClose={() => {
          setSheet(null);
        }}
      />
      {session && clash ? (
        <ClashDialog clash={clash} saver={session.saver} userName={user.name} onDone={endClash} />
      ) : null}
    </DropTarget>
  );
}

function Unopened({ failure }: { readonly failure: Problem }) {
  return (
    <main className="p-8">
      <h1 className="mb-2 text-[18px] font-semibold">This material cannot be opened</h1>
      <ProblemNote problem={failure} className="max-w-[60ch]" />
    </main>
  );
}

interface DropProps {
  readonly onFile: (file: File) => Promise<void>;
  readonly children: React.ReactNode;
}

/** A file may be dropped anywhere on the editor. */
function DropTarget({ onFile, children }: DropProps) {
  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(event) => {
        event.preventDefault();
      }}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) void onFile(file);
      }}
    >
      <PaletteSlot value={showPalettes}>{children}</PaletteSlot>
    </div>
  );
}

interface SheetsProps {
  readonly session: Session | null;
  readonly sheet: SheetName | null;
  readonly models: readonly ModelEntry[];
  readonly onModel: (id: string, name: string) => Promise<void>;
  readonly onClose: () => void;
}

function EditorSheets({ session, sheet, models, onModel, onClose }: SheetsProps) {
  const group = useOpenGroup();
  return (
    <>
      {session ? (
        <>
          <BakeSheet open={sheet === 'bake'} onClose={onClose} evaluation={session.evaluation} />
          <PapersSheet
            group={sheet === 'papers' ? group : null}
            evaluation={session.evaluation}
            onClose={onClose}
          />
          <ExplainSheet evaluation={session.evaluation} />
          <FiguresSheet evaluation={session.evaluation} />
          <StatesSheet
            open={sheet === 'states'}
            evaluation={session.evaluation}
            saver={session.saver}
            models={models}
            onModel={onModel}
            onClose={onClose}
          />
        </>
      ) : null}
      <LibrarySheet open={sheet === 'library'} onClose={onClose} />
      {sheet === 'releases' ? <ReleasesSheet open onClose={onClose} /> : null}
      <PublishSheet
        group={sheet === 'publish' ? group : null}
        saver={session?.saver ?? null}
        onClose={onClose}
      />
    </>
  );
}
