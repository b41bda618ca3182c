'use client';
import { useCallback, useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { ModelEntry } from '@/contract/models';
import { describeError } from '@/core/base/problem';
import type { Problem } from '@/core/base/problem';
import { chooseModel } from '@/state/editing';
import { startEvaluation } from '@/state/evaluation';
import type { Evaluation } from '@/state/evaluation';
import { offerGuide } from '@/state/guide';
import { openMaterial } from '@/state/open-material';
import { placeById } from '@/state/placing';
import type { ReadFile } from '@/state/model-loader';
import { Saver } from '@/state/saving';
import type { Clash } from '@/state/saving';
import { stores } from '@/state/stores';
import { uploadModelFile } from '@/state/upload';
import { tellProblem } from '@/ui/tell-problem';

/** What runs behind an open editor. */
export interface Session {
  readonly evaluation: Evaluation;
  readonly saver: Saver;
  readonly projectId: string;
}

interface Opening {
  readonly materialId: string;
  readonly userId: string;
  readonly nameOf: (modelId: string) => string;
  readonly onClash: (clash: Clash) => void;
}

const LOST_WORKER =
  'A worker of the browser ended, perhaps for lack of memory. It was restarted; your work is ' +
  'kept, and what it was measuring is measured again.';

function tellOfRestored(more: number): void {
  toast('Unsaved work of this browser was restored.');
  if (more > 0)
    toast(
      `${String(more)} more unsaved ${more === 1 ? 'version' : 'versions'} of this material are ` +
        'kept in this browser. Open it again after this one is saved.',
    );
}

/** Opens a material and starts what runs behind it. @throws ApiFailure, WorkerProblem */
async function openSession(
  { materialId, userId, nameOf, onClash }: Opening,
  onOpened: (session: Session) => boolean,
): Promise<void> {
  const { material, restored, more, unanswered } = await openMaterial(materialId, userId);
  const session: Session = {
    evaluation: startEvaluation(),
    saver: new Saver({
      userId,
      onClash,
      unanswered,
      confirmed: { revision: material.revision, document: material.document },
    }),
    projectId: material.projectId,
  };
  if (!onOpened(session)) return;
  session.evaluation.pool.onReplaced(() => {
    toast(LOST_WORKER, { duration: 12000 });
  });
  const { modelId } = stores.document.getState();
  placeAsked();
  await session.evaluation.show(modelId, nameOf(modelId));
  if (!restored) return;
  tellOfRestored(more);
  void session.saver.flush();
}

/** An entry of the library that the address asks for is placed, once. */
function placeAsked(): void {
  const address = new URL(window.location.href);
  const id = address.searchParams.get('place');
  if (id === null) return;
  address.searchParams.delete('place');
  window.history.replaceState(null, '', address);
  placeById(id).then((placed) => toast(`Placed ${placed} on the board`), tellProblem);
}

function closeSession({ saver, evaluation }: Session): void {
  void saver.flush().finally(() => {
    saver.close();
  });
  evaluation.close();
}

interface EditorSession {
  readonly session: Session | null;
  readonly failure: Problem | null;
  readonly clash: Clash | null;
  readonly endClash: () => void;
}

/** Keeps a material open as long as its screen is there. */
export function useEditorSession(
  materialId: string,
  models: readonly ModelEntry[],
  userId: string,
): EditorSession {
  const [session, setSession] = useState<Session | null>(null);
  const [failure, setFailure] = useState<Problem | null>(null);
  const [clash, setClash] = useState<Clash | null>(null);
  useEffect(() => {
    let isLive = true;
    let opened: Session | null = null;
    const nameOf = (id: string): string => models.find((model) => model.id === id)?.name ?? 'Model';
    openSession({ materialId, userId, nameOf, onClash: setClash }, (made) => {
      if (!isLive) {
        closeSession(made);
        return false;
      }
      opened = made;
      setSession(made);
      offerGuide(stores.document.getState().document.network.nodes.length === 0);
      return true;
    }).catch((error: unknown) => {
      if (isLive) setFailure(describeError(error));
    });
    return () => {
      isLive = false;
      if (opened) closeSession(opened);
    };
  }, [materialId, models, userId]);
  const endClash = useCallback(() => {
    setClash(null);
  }, []);
  return { session, failure, clash, endClash };
}

interface EditorModels {
  readonly models: readonly ModelEntry[];
  /** Shows the material on another model, and saves that. */
  readonly change: (id: string, name: string) => Promise<void>;
  /** Takes a file that was dropped: it becomes a model of the project, and is shown. */
  readonly drop: (file: File) => Promise<void>;
}

/** The models there are to look at, and what can be done with them. */
export function useEditorModels(
  session: Session | null,
  initial: readonly ModelEntry[],
  userName: string,
): EditorModels {
  const [models, setModels] = useState(initial);
  const change = useCallback(
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
  const drop = useCallback(
    async (file: File) => {
      if (!session) return;
      toast(`Reading ${file.name} …`);
      try {
        const { loader } = session.evaluation.models;
        const read: ReadFile[] = [];
        const { id, name } = await uploadModelFile(file, session.projectId, async (dropped) => {
          read.push(await loader.read(dropped));
        });
        for (const each of read) await loader.adopt(id, each);
        const entry = {
          id,
          name,
          projectId: session.projectId,
          ownerName: userName,
          isArchived: false,
          hasFormer: false,
        };
        setModels((old) => [...old, entry]);
        await change(id, name);
      } catch (error) {
        tellProblem(error);
      }
    },
    [session, change, userName],
  );
  return { models, change, drop };
}
