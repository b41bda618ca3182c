'use client';
import { toast } from 'sonner';
import { useEffect } from 'react';
import { isMark } from '@/core/edit/marks';
import { tidyNodes } from '@/core/edit/tidy';
import { changeBoard } from '@/core/edit/nodes';
import { groupSelection } from '@/core/edit/group';
import { ungroup } from '@/core/edit/ungroup';
import { FindingsMenu } from '@/features/findings/FindingsMenu';
import { HistoryMenu } from '@/features/view/HistoryMenu';
import { KeySheet } from '@/features/view/KeySheet';
import { ViewMenu } from '@/features/view/ViewMenu';
import type { ModelEntry } from '@/contract/models';
import { CompanyNote } from './CompanyNote';
import type { Saver } from '@/state/saving';
import { Button } from '@/ui/Button';
import { Choose } from '@/ui/Choose';
import { tellProblem } from '@/ui/tell-problem';
import { commit, currentBoard, frameAll, select } from '@/state/editing';
import { useWaiting } from '@/state/releases';
import { stores } from '@/state/stores';
import type { SaveState } from '@/state/stores';
import { useDocument, useSaving } from '@/state/use-stores';

const SAVE_WORDS: Record<SaveState, string> = {
  saved: 'Saved',
  unsaved: 'Not saved yet',
  saving: 'Saving …',
  offline: 'Kept in this browser; the server is away',
  clash: 'Two versions',
  'signed-out': 'Signed out; kept in this browser',
  refused: 'Not saved',
};
interface Props {
  readonly models: readonly ModelEntry[];
  readonly saver: Saver;
  /** The name of the project it belongs to. */
  readonly project: string;
  readonly onModel: (id: string, name: string) => Promise<void>;
  readonly onSheet: (sheet: 'library' | 'bake' | 'releases' | 'states') => void;
}

/**
 * Packages the selection. The network is saved just before, so that the proof has something to
 * compare with.
 */
async function packageSelection(saver: Saver): Promise<void> {
  const ids = stores.view.getState().selection.filter((id) => !isMark(id));
  if (ids.length === 0) {
    toast('Select the cards to package first.');
    return;
  }
  const saved = await saver.flush();
  const { materialId, revision } = stores.document.getState(),
    { path } = stores.view.getState();
  try {
    let nodeId = '';
    commit('Packaged as a group', (document, board) => {
      const grouped = groupSelection(document, {
        board,
        ids,
        name: 'New group',
        path,
        ...(saved ? { source: { materialId, revision } } : {}),
      });
      nodeId = grouped.nodeId;
      return grouped.document;
    });
    select([nodeId]);
    toast(
      `Packaged ${String(ids.length)} ${ids.length === 1 ? 'node' : 'nodes'}. Double-click ` +
        'the card to open it.',
    );
    if (!saved) toast('The network could not be saved first, so this group has no proof.');
  } catch (error) {
    tellProblem(error);
  }
}

function openUp(): void {
  const [id] = stores.view.getState().selection;
  try {
    if (id) commit('Dissolved a group', (document, board) => ungroup(document, board, id));
  } catch (error) {
    tellProblem(error);
  }
}

/** What is done with the open material as a whole. */
export function EditorBar({ models, saver, project, onModel, onSheet }: Props) {
  const modelId = useDocument((state) => state.modelId);
  usePackagingKeys(saver);
  return (
    <>
      <span
        className={
          'flex min-w-[168px] shrink items-center gap-2 overflow-hidden whitespace-nowrap ' +
          'border-l border-line pl-3'
        }
      >
        <MaterialName />
        <RevisionNote project={project} />
        <SaveNote />
        <CompanyNote />
      </span>
      <FindingsMenu />
      <ReleasesButton
        onOpen={() => {
          onSheet('releases');
        }}
      />
      <span className="ml-auto h-5 border-l border-line" />
      <HistoryMenu />
      <ViewMenu />
      <KeySheet />
      <Choose
        label="Model on the stage"
        value={modelId}
        items={models
          .filter(({ id, isArchived }) => !isArchived || id === modelId)
          .map((model) => ({ value: model.id, title: model.name }))}
        onChange={(id) => {
          void onModel(id, models.find((model) => model.id === id)?.name ?? 'Model');
        }}
      />
      <Button onClick={tidy}>Tidy</Button>
      <Button
        onClick={() => {
          void packageSelection(saver);
        }}
        title="Ctrl+G"
      >
        Package
      </Button>
      <SheetButtons onSheet={onSheet} />
    </>
  );
}

/** What opens beside the board. */
function SheetButtons({ onSheet }: Pick<Props, 'onSheet'>) {
  return (
    <>
      <Button
        title="Place a group of the studio’s library on the board"
        onClick={() => {
          onSheet('library');
        }}
      >
        Place
      </Button>
      <Button
        onClick={() => {
          onSheet('bake');
        }}
      >
        Bake
      </Button>
      <Button
        title="Kept states, and any two of them beside each other"
        onClick={() => {
          onSheet('states');
        }}
      >
        States
      </Button>
    </>
  );
}

/** Says that newer releases wait for this material; nothing while none does. */
function ReleasesButton({ onOpen }: { readonly onOpen: () => void }) {
  const { length } = useWaiting();
  if (length === 0) return null;
  const words = length === 1 ? '1 release waits' : `${String(length)} releases wait`;
  return (
    <Button
      look="quiet"
      className="figures !border-weld whitespace-nowrap"
      title={words}
      aria-label={words}
      onClick={onOpen}
    >
      ↑ {length}
    </Button>
  );
}

/** Lays the cards of the board out, and shows them all. */
function tidy(): void {
  commit('Tidied the board', (document) =>
    changeBoard(document, currentBoard(), (network) => ({
      ...network,
      nodes: tidyNodes(network),
    })),
  );
  frameAll();
}

/** Ctrl+G packages the selection, with Shift it opens a group up. */
function usePackagingKeys(saver: Saver): void {
  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'g') return;
      event.preventDefault();
      if (event.shiftKey) openUp();
      else void packageSelection(saver);
    };
    window.addEventListener('keydown', key);
    return () => {
      window.removeEventListener('keydown', key);
    };
  }, [saver]);
}

/** Of which project, and which revision is the newest that is known. */
function RevisionNote({ project }: Pick<Props, 'project'>) {
  const revision = useDocument((state) => state.revision);
  return (
    <span className="hidden truncate text-[12px] text-soft min-[1500px]:inline">
      {project}, revision <span className="figures">{revision}</span>
    </span>
  );
}

const NAME =
  'min-w-[80px] shrink text-ellipsis bg-transparent text-[14px] font-semibold hover:bg-raised';
function MaterialName() {
  const name = useDocument((state) => state.document.name);
  const materialId = useDocument((state) => state.materialId);
  return (
    <input
      aria-label="Name of the material"
      key={`${materialId}${name}`}
      defaultValue={name}
      className={NAME}
      size={Math.min(28, Math.max(8, name.length))}
      title={name}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        event.stopPropagation();
      }}
      onBlur={(event) => {
        const next = event.target.value.trim();
        if (next && next !== name)
          commit('Named the material', (document) => ({ ...document, name: next }));
      }}
    />
  );
}

const CALM: ReadonlySet<SaveState> = new Set(['saved', 'saving', 'unsaved']);

function SaveNote() {
  const saveState = useSaving((state) => state.saveState);
  const saveMessage = useSaving((state) => state.saveMessage);
  return (
    <span
      role="status"
      data-testid="save-state"
      className={`shrink-0 text-[12px] ${CALM.has(saveState) ? 'text-soft' : 'text-madder'}`}
      title={saveMessage}
    >
      {SAVE_WORDS[saveState]}
    </span>
  );
}
