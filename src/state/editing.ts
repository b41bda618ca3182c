import type { MaterialId, ModelId, NodeId, PortId, ResultKey, StrandId } from '../core/base/ids';
import { isMark } from '../core/edit/marks';
import type { Camera } from '../core/evaluate/camera';
import type { BoardId, NetworkDocument } from '../core/graph/document';
import { outputKey } from '../core/graph/result-key';
import { boardAt, validPath } from './board-path';
import { stores } from './stores';
import type { BoardPlace, DocumentState, PanelName, Stores, ViewState } from './stores';

/** How many steps can be undone. */
const HISTORY = 300;

export interface OpenedDocument {
  readonly document: NetworkDocument;
  readonly materialId: MaterialId;
  readonly modelId: ModelId;
  readonly revision: number;
}
const NO_HISTORY = { past: [], future: [], gesture: null, edits: 0 };
type Change = (document: NetworkDocument, board: BoardId) => NetworkDocument;

/** All that can be done to the open document. */
function documentEditing({ document: documents, view, stage, results, findings }: Stores) {
  const currentBoard = (): BoardId => boardAt(documents.getState().document, view.getState().path);

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
    view.setState({ chosenStrand: null, path: validPath(step.document, path) });
    return step.label;
  }

  return {
    currentBoard,
    /** Opens a material; history starts anew. */
    openDocument: (opened: OpenedDocument, restored?: Partial<DocumentState>): void => {
      view.setState({
        path: [],
        selection: [],
        chosenStrand: null,
        pin: null,
        picking: null,
        inView: null,
        asked: { show: 'all' },
        placesBehind: [],
        placesAhead: [],
      });
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
      const document = change(state.document, currentBoard());
      if (document === state.document) return;
      const joins = gesture !== null && gesture === state.gesture;
      const step = { label, document: state.document };
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
    /** @returns what was undone, in words; null where there is nothing */
    undo: (): string | null => travel('past', 'future'),
    redo: (): string | null => travel('future', 'past'),
    /** Looks at the material on another model, which is saved with it. */
    chooseModel: (modelId: ModelId): void => {
      documents.setState({ modelId, edits: documents.getState().edits + 1 });
    },
  };
}

/** How many places can be gone back to. */
const PLACES = 60;
type ViewStore = Pick<Stores, 'view'>;

/** Going from board to board, and back. */
function travelling({ view }: ViewStore) {
  const here = (): BoardPlace => {
    const { path, boardView } = view.getState();
    return { path, view: boardView };
  };
  /** What is noted when another place is gone to on purpose. */
  const leaving = (): Partial<ViewState> => ({
    placesBehind: [...view.getState().placesBehind.slice(1 - PLACES), here()],
    placesAhead: [],
  });
  function travel(from: 'placesBehind' | 'placesAhead', to: typeof from): boolean {
    const state = view.getState();
    const place = state[from].at(-1);
    if (!place) return false;
    view.setState({
      [from]: state[from].slice(0, -1),
      [to]: [...state[to], here()],
      path: place.path,
      selection: [],
      chosenStrand: null,
      asked: { show: 'view', view: place.view },
    });
    return true;
  }
  const open = (path: readonly NodeId[]): void => {
    view.setState({
      ...leaving(),
      path,
      selection: [],
      chosenStrand: null,
      asked: { show: 'all' },
    });
  };
  return {
    enterGroup: (nodeId: NodeId): void => {
      open([...view.getState().path, nodeId]);
    },
    leaveTo: (depth: number): void => {
      open(view.getState().path.slice(0, depth));
    },
    /** Shows a board and brings a card or strand of it into view, chosen. */
    goTo: (
      path: readonly NodeId[],
      { node, strand = null }: { readonly node?: NodeId; readonly strand?: StrandId | null },
    ): void => {
      view.setState({
        ...leaving(),
        path,
        selection: node !== undefined && strand === null ? [node] : [],
        chosenStrand: strand,
        asked: node === undefined ? { show: 'all' } : { show: 'near', ids: [node] },
      });
    },
    /** Shows a part of a board that was kept, with the camera it was kept with. */
    goToView: ({ path, view: asked }: BoardPlace, camera: Camera | null): void => {
      view.setState({
        ...leaving(),
        path,
        selection: [],
        chosenStrand: null,
        asked: { show: 'view', view: asked },
        ...(camera ? { askedCamera: { ...camera } } : {}),
      });
    },
    frameAll: (): void => {
      view.setState({ ...leaving(), asked: { show: 'all' } });
    },
    /** Shows the chosen cards as large as fits; all where none is chosen. */
    frameSelection: (): void => {
      const ids = view.getState().selection.filter((id) => !isMark(id));
      const asked = ids.length > 0 ? ({ show: 'cards', ids } as const) : ({ show: 'all' } as const);
      view.setState({ ...leaving(), asked });
    },
    /** @returns whether there was a place to go back to */
    goBack: (): boolean => travel('placesBehind', 'placesAhead'),
    goForward: (): boolean => travel('placesAhead', 'placesBehind'),
  };
}

/** All that can be done to what is looked at of it. */
function viewEditing({ view }: ViewStore) {
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
