import type { MaterialId, ModelId, NodeId, PortId, ResultKey, StrandId } from '../core/base/ids';
import type { Problem } from '../core/base/problem';
import { spreadToTwins } from '../core/edit/twins';
import { getNetwork } from '../core/edit/board';
import { isMark } from '../core/edit/marks';
import { passedLimit } from '../core/edit/limits';
import type { BoardId, NetworkDocument } from '../core/graph/document';
import { outputKey } from '../core/graph/result-key';
import { boardAt } from '../core/edit/board';
import { validPath } from './board-path';
import { detailAtFirst } from './card-detail';
import { isPinThere } from './pin-name';
import { stores } from './stores';
import type { DocumentState, PanelName, Stores, ViewState } from './stores';
import { travelling } from './travelling';

/** How many steps can be undone. */
const HISTORY = 300;

export interface OpenedDocument {
  readonly document: NetworkDocument;
  readonly materialId: MaterialId;
  readonly modelId: ModelId;
  readonly revision: number;
}
const NO_HISTORY = { past: [], future: [], gesture: null, edits: 0 };
/** What is looked at of a material that was just opened. */
const NOWHERE: Partial<ViewState> = {
  path: [],
  selection: [],
  chosenStrand: null,
  pin: null,
  picking: null,
  stroking: null,
  keptSight: null,
  explained: [],
  exchanging: null,
  inView: null,
  placesBehind: [],
  placesAhead: [],
};
type Change = (document: NetworkDocument, board: BoardId) => NetworkDocument;

const beyond = (message: string): Problem => ({
  code: 'document.limit',
  message,
  kept: 'Nothing was changed.',
  action: 'Package a part as a group: what is inside counts on a board of its own.',
});

/** A node that goes takes its output off the stage. */
function dropLostPin(view: Stores['view'], document: NetworkDocument): void {
  const { pin } = view.getState();
  if (pin !== null && !isPinThere(document, pin)) view.setState({ pin: null });
}

/** Going back in the history of the document, and forward again. */
function historyEditing({ document: documents, view }: Pick<Stores, 'document' | 'view'>) {
  function travel(from: 'past' | 'future', to: 'past' | 'future'): string | null {
    const state = documents.getState();
    const step = state[from].at(-1);
    if (!step) return null;
    documents.setState({
      document: step.document,
      gesture: null,
      edits: state.edits + 1,
      [from]: state[from].slice(0, -1),
      [to]: [...state[to], { label: step.label, document: state.document }],
    });
    const { path } = view.getState();
    dropLostPin(view, step.document);
    const next = validPath(step.document, path);
    const there = new Set(
      getNetwork(step.document, boardAt(step.document, next)).nodes.map(({ id }) => id),
    );
    // What is gone is chosen no more.
    const selection = view.getState().selection.filter((id) => isMark(id) || there.has(id));
    view.setState({ chosenStrand: null, path: next, selection });
    return step.label;
  }

  return {
    /** @returns what was undone, in words; null where there is nothing */
    undo: (): string | null => travel('past', 'future'),
    redo: (): string | null => travel('future', 'past'),
    /** Takes back so many steps at once. */
    undoSteps: (count: number): void => {
      for (let k = 0; k < count; k++) travel('past', 'future');
    },
    redoSteps: (count: number): void => {
      for (let k = 0; k < count; k++) travel('future', 'past');
    },
  };
}

/** All that can be done to the open document. */
function documentEditing({ document: documents, view, stage, results, findings }: Stores) {
  const currentBoard = (): BoardId => boardAt(documents.getState().document, view.getState().path);

  return {
    currentBoard,
    /** Opens a material; history starts anew. */
    openDocument: (opened: OpenedDocument, restored?: Partial<DocumentState>): void => {
      const detail = detailAtFirst(opened.document.network.nodes.length);
      view.setState({ ...NOWHERE, detail, asked: { show: 'all' } });
      stage.setState({ companionStates: new Map() });
      results.setState({ taps: new Map(), appearance: null, readings: new Map(), problem: null });
      findings.setState({ findings: [], checked: null, shown: null });
      documents.setState({ ...NO_HISTORY, ...opened, ...restored });
    },

    /**
     * Changes the document as one named, undoable step. Changes of one gesture (a drag) make one
     * step.
     */
    commit: (label: string, change: Change, gesture: string | null = null): void => {
      const state = documents.getState();
      const board = currentBoard();
      const changed = change(state.document, board);
      const document = spreadToTwins(state.document, changed, board);
      if (document === state.document) return;
      const limit = passedLimit(document);
      if (limit !== null) {
        results.setState({ problem: beyond(limit) });
        return;
      }
      const joins = gesture !== null && gesture === state.gesture;
      const step = { label, document: state.document };
      dropLostPin(view, document);
      documents.setState({
        document,
        gesture,
        future: [],
        edits: state.edits + 1,
        past: joins ? state.past : [...state.past.slice(1 - HISTORY), step],
      });
    },
    endGesture: (): void => {
      documents.setState({ gesture: null });
    },
    /** Looks at the material on another model, which is saved with it. */
    chooseModel: (modelId: ModelId): void => {
      documents.setState({ modelId, edits: documents.getState().edits + 1 });
    },
  };
}

/** All that can be done to what is looked at of it. */
function viewEditing({ view }: Pick<Stores, 'view'>) {
  return {
    select: (ids: readonly string[], strand: StrandId | null = null): void => {
      view.setState({ selection: ids, chosenStrand: strand });
    },
    /** Pins an output on the stage; pinning it again returns to the surface. */
    togglePin: (key: ResultKey): void => {
      view.setState({ pin: view.getState().pin === key ? null : key });
    },
    /** Hides a part of the window, or shows it again; one part always stays. */
    togglePanel: (name: PanelName): void => {
      const hidden = new Set(view.getState().hidden);
      if (!hidden.delete(name)) hidden.add(name);
      if (!hidden.has('stage') || !hidden.has('board')) view.setState({ hidden });
    },
    /** The stage alone; again: everything. */
    toggleStageAlone: (): void => {
      const { hidden } = view.getState();
      const isAlone = hidden.has('board') && !hidden.has('stage');
      view.setState({ hidden: new Set(isAlone ? [] : ['board', 'bench', 'front']) });
    },
  };
}

/** All that can be done to the open document and to what is looked at of it. */
export const makeEditing = (given: Stores) => ({
  ...documentEditing(given),
  ...historyEditing(given),
  ...travelling(given),
  ...viewEditing(given),
});

/** What is done to the page's own stores. */
export const {
  currentBoard,
  openDocument,
  commit,
  endGesture,
  undo,
  redo,
  undoSteps,
  redoSteps,
  chooseModel,
  select,
  enterGroup,
  leaveTo,
  togglePin,
  frameAll,
  frameSelection,
  goTo,
  goToView,
  goBack,
  goForward,
  togglePanel,
  toggleStageAlone,
} = makeEditing(stores);

/** The result key of an output of a node on the board at the end of a path. */
export const keyOnBoard = (path: readonly NodeId[], node: NodeId, output: PortId): ResultKey =>
  outputKey([...path, node], output);
