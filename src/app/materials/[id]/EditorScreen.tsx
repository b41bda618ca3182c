'use client';
import { own } from '@/core/base/own';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import { toast } from 'sonner';
import { AccountMenu } from '@/features/account/AccountMenu';
import { BakeSheet } from '@/features/bake/BakeSheet';
import { Board } from '@/features/board/Board';
import { Front } from '@/features/front/Front';
import type { Exposing } from '@/features/front/dial-ends';
import { OutsideStrip } from '@/features/front/OutsideStrip';
import { Bench } from '@/features/inspector/Bench';
import { LibrarySheet } from '@/features/library/LibrarySheet';
import { PublishSheet } from '@/features/library/PublishSheet';
import { Stage } from '@/features/stage/Stage';
import type { ModelEntry } from '@/contract/models';
import { startEvaluation } from '@/state/evaluation';
import type { Evaluation } from '@/state/evaluation';
import { Saver, openMaterial } from '@/state/saving';
import type { Clash } from '@/state/saving';
import { uploadModelFile } from '@/state/upload';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { ErrorBoundary } from '@/ui/ErrorBoundary';
import { ProblemNote } from '@/ui/ProblemNote';
import { tellProblem } from '@/ui/tell-problem';
import { TopBar } from '@/ui/TopBar';
import { ClashDialog } from './ClashDialog';
import { EditorBar } from './EditorBar';
import { Trail } from './Trail';
import { boardAt } from '@/state/board-path';
import { stores } from '@/state/stores';
import { useDocument, useView } from '@/state/use-stores';
import { chooseModel } from '@/state/editing';

interface Props {
  readonly materialId: string;
  readonly models: readonly ModelEntry[];
  readonly user: { readonly id: string; readonly name: string; readonly role: string };
}
interface Session {
  readonly evaluation: Evaluation;
  readonly saver: Saver;
  readonly projectId: string;
}

/**
 * Stage, board and bench at once; inside a group, its front beside the board and the outside above.
 */
export function EditorScreen({ materialId, models: initialModels, user }: Props) {
  const [session, setSession] = useState<Session | null>(null);
  const [models, setModels] = useState(initialModels);
  const [failure, setFailure] = useState<Problem | null>(null);
  const [clash, setClash] = useState<Clash | null>(null);
  const [sheet, setSheet] = useState<'bake' | 'library' | 'publish' | null>(null);
  const [exposing, setExposing] = useState<Exposing | null>(null);
  const path = useView((state) => state.path);
  const document = useDocument((state) => state.document);
  const group = useMemo(() => {
    const board = boardAt(document, path);
    return board === null ? null : (own(document.groups, board) ?? null);
  }, [document, path]);

  useEffect(() => {
    let live = true;
    let opened: Session | null = null;
    const open = async (): Promise<void> => {
      const { material, restored, more, unanswered } = await openMaterial(materialId, user.id);
      if (!live) return;
      opened = {
        evaluation: startEvaluation(),
        saver: new Saver({ userId: user.id, onClash: setClash, unanswered }),
        projectId: material.projectId,
      };
      setSession(opened);
      opened.evaluation.pool.onReplaced(() => {
        toast(
          'A worker of the browser ended, perhaps for want of memory. It was started ' +
            'again; your work is kept, and what it was measuring is measured anew.',
          { duration: 12000 },
        );
      });
      const { modelId } = stores.document.getState();
      await opened.evaluation.show(
        modelId,
        initialModels.find((model) => model.id === modelId)?.name ?? 'Model',
      );
      if (restored) {
        toast('Unsaved work of this browser was restored.');
        if (more > 0)
          toast(
            `${String(more)} more unsaved ${more === 1 ? 'version' : 'versions'} of this ` +
              'material are kept in this browser. Open it again after this one is saved.',
          );
        void opened.saver.flush();
      }
    };
    open().catch((error: unknown) => {
      if (live) setFailure(describeError(error));
    });
    return () => {
      live = false;
      const closing = opened;
      if (closing)
        void closing.saver.flush().finally(() => {
          closing.saver.close();
        });
      opened?.evaluation.close();
    };
  }, [materialId, initialModels, user.id]);

  const changeModel = useCallback(
    async (id: string, name: string) => {
      if (!session) return;
      try {
        const notes = await session.evaluation.show(id, name);
        chooseModel(id);
        for (const note of notes) toast(note);
        void session.saver.flush();
      } catch (error) {
        tellProblem(error);
      }
    },
    [session],
  );
  const dropFile = useCallback(
    async (file: File) => {
      if (!session) return;
      toast(`Reading ${file.name} …`);
      try {
        const { id, name } = await uploadModelFile(file, session.projectId);
        setModels((old) => [
          ...old,
          { id, name, projectId: session.projectId, ownerName: user.name },
        ]);
        await changeModel(id, name);
      } catch (error) {
        tellProblem(error);
      }
    },
    [session, changeModel, user.name],
  );

  if (failure)
    return (
      <main className="p-8">
        <h1 className="mb-2 text-[18px] font-semibold">This material cannot be opened</h1>
        <ProblemNote problem={failure} className="max-w-[60ch]" />
      </main>
    );
  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(event) => {
        event.preventDefault();
      }}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) void dropFile(file);
      }}
    >
      <TopBar here="editor">
        {session ? (
          <EditorBar
            models={models}
            saver={session.saver}
            onModel={(id, name) => {
              void changeModel(id, name);
            }}
            onBake={() => {
              setSheet('bake');
            }}
            onLibrary={() => {
              setSheet('library');
            }}
          />
        ) : (
          <span className="text-soft">Opening …</span>
        )}
        <AccountMenu name={user.name} role={user.role} />
      </TopBar>
      {session ? (
        <Group orientation="horizontal" className="min-h-0 flex-1">
          <Panel defaultSize="37%" minSize="15%">
            <ErrorBoundary name="The stage">
              <Stage evaluation={session.evaluation} models={models} />
            </ErrorBoundary>
          </Panel>
          <Separator className="w-[5px] bg-line hover:bg-seam" />
          <Panel minSize="25%">
            <Group orientation="vertical">
              <Panel minSize="20%">
                <div className="flex h-full flex-col">
                  {path.length > 0 ? (
                    <div className="h-[92px] shrink-0 border-b border-line">
                      <OutsideStrip />
                    </div>
                  ) : null}
                  <Trail />
                  <div className="flex min-h-0 flex-1">
                    <div className="min-w-0 flex-1">
                      <ErrorBoundary name="The board">
                        <Board />
                      </ErrorBoundary>
                    </div>
                    {group ? (
                      <div className="w-[262px] shrink-0">
                        <Front
                          evaluation={session.evaluation}
                          exposing={exposing}
                          onExposed={() => {
                            setExposing(null);
                          }}
                          onPublish={() => {
                            setSheet('publish');
                          }}
                        />
                      </div>
                    ) : null}
                  </div>
                </div>
              </Panel>
              <Separator className="h-[5px] bg-line hover:bg-seam" />
              <Panel defaultSize="33%" minSize="8%">
                <div className="h-full bg-panel">
                  <ErrorBoundary name="The bench">
                    <Bench
                      evaluation={session?.evaluation ?? null}
                      onExpose={
                        group
                          ? (node, input) => {
                              setExposing({ node, input });
                            }
                          : null
                      }
                    />
                  </ErrorBoundary>
                </div>
              </Panel>
            </Group>
          </Panel>
        </Group>
      ) : null}
      {session ? (
        <BakeSheet
          open={sheet === 'bake'}
          onClose={() => {
            setSheet(null);
          }}
          evaluation={session.evaluation}
        />
      ) : null}
      <LibrarySheet
        open={sheet === 'library'}
        onClose={() => {
          setSheet(null);
        }}
      />
      <PublishSheet
        group={sheet === 'publish' ? group : null}
        saver={session?.saver ?? null}
        onClose={() => {
          setSheet(null);
        }}
      />
      {session && clash ? (
        <ClashDialog
          clash={clash}
          saver={session.saver}
          userName={user.name}
          onDone={() => {
            setClash(null);
          }}
        />
      ) : null}
    </div>
  );
}
