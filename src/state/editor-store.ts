import { own } from '../core/base/own';
import type { NodeId, PortId, ResultKey } from '../core/base/ids';
import { outputKey } from '../core/graph/result-key';
import { createStore } from 'zustand/vanilla';
import { networkOf } from '../core/edit/board';
import type { BoardId } from '../core/edit/board';
import { emptyDocument } from '../core/graph/document';
import type { Network, NetworkDocument } from '../core/graph/document';
import type { Problem } from '../core/base/problem';
import type { ModelScale } from '../core/compile/model-scale';
import type { ImageReading } from '../core/compile/images';
import type { CompanionState } from './companions';
import type { ImageState } from './images';
import type { Appearance } from '../core/surface/stage-layout';
import type { Camera } from '../core/evaluate/camera';
import type { Picked } from '../core/evaluate/pick';
import type { TapResult } from '../core/evaluate/tap-results';
import type { ValueKind } from '../core/graph/document';

export interface HistoryStep {
  readonly label: string;
  readonly document: NetworkDocument;
}
export type SaveState =
  'saved' | 'unsaved' | 'saving' | 'offline' | 'clash' | 'signed-out' | 'refused';
/** How the stage shows the model: as it is, as lit clay, or with small differences made large. */
export const STAGE_LOOKS = ['finished', 'clay', 'exaggerated'] as const;
export type StageLook = (typeof STAGE_LOOKS)[number];
export interface MapProgress {
  readonly label: string;
  readonly share: number;
}

/** What may be chosen of the model at hand, by name. */
export interface ModelFacts {
  readonly scale: ModelScale;
  readonly parts: readonly string[];
  readonly attributes: readonly string[];
  readonly sets: readonly string[];
}

/**
 * Something that waits for a click on the model; `take` tells in words why the click gave nothing,
 * or null.
 */
export interface Picking {
  readonly asks: string;
  readonly take: (picked: Picked) => string | null;
}

export interface EditorState {
  readonly document: NetworkDocument;
  /** Ids of the group nodes that lead from the material's board to the one shown. */
  readonly path: readonly string[];
  readonly selection: readonly string[];
  readonly chosenStrand: string | null;
  readonly past: readonly HistoryStep[];
  readonly future: readonly HistoryStep[];
  /** What the last change was part of; a change of the same gesture joins it in the history. */
  readonly gesture: string | null;
  /** A result shown on the stage in place of the surface. */
  readonly pin: string | null;
  readonly materialId: string;
  readonly modelId: string;
  readonly revision: number;
  readonly saveState: SaveState;
  readonly saveMessage: string;
  readonly taps: ReadonlyMap<string, TapResult>;
  readonly kinds: ReadonlyMap<string, ValueKind>;
  /** What the finished surface needs of the stage; null until it was evaluated. */
  readonly appearance: Appearance | null;
  readonly images: ReadonlyMap<string, ImageState>;
  /** How each node's image is read, by its path. */
  readonly readings: ReadonlyMap<string, ImageReading>;
  readonly look: StageLook;
  readonly picking: Picking | null;
  /** How each model beside the current one is doing, by its id in the document. */
  readonly companionStates: ReadonlyMap<string, CompanionState>;
  readonly problem: Problem | null;
  readonly camera: Camera | null;
  /** What the model shown brings; null until it is loaded. */
  readonly model: ModelFacts | null;
  readonly progress: MapProgress | null;
  /** Whether a person stopped measuring: maps stay as they were seen first. */
  readonly isMeasuringStopped: boolean;
  /** Raised to ask the board to show all its cards. */
  readonly fitRequests: number;
  /** Cards the board is asked to bring into view; another list asks anew. */
  readonly revealed: readonly string[];
}

const HISTORY = 300;

export const editorStore = createStore<EditorState>(() => ({
  document: emptyDocument(''),
  path: [],
  selection: [],
  chosenStrand: null,
  past: [],
  future: [],
  gesture: null,
  pin: null,
  materialId: '',
  modelId: '',
  revision: 0,
  saveState: 'saved',
  saveMessage: '',
  taps: new Map(),
  kinds: new Map(),
  appearance: null,
  images: new Map(),
  readings: new Map(),
  look: 'finished',
  picking: null,
  companionStates: new Map(),
  problem: null,
  camera: null,
  model: null,
  progress: null,
  isMeasuringStopped: false,
  fitRequests: 0,
  revealed: [],
}));
const { getState, setState } = editorStore;

/** The board at the end of a path of group nodes; the deepest that exists. */
export function boardAt(document: NetworkDocument, path: readonly string[]): BoardId {
  let board: BoardId = null;
  for (const id of path) {
    const network: Network = networkOf(document, board);
    const group: string | undefined = network.nodes.find((node) => node.id === id)?.group;
    if (group === undefined || !own(document.groups, group)) return board;
    board = group;
  }
  return board;
}
export const currentBoard = (): BoardId => boardAt(getState().document, getState().path);

/** Loads a material; history starts anew. */
export function openDocument(given: {
  document: NetworkDocument;
  materialId: string;
  modelId: string;
  revision: number;
}): void {
  setState({
    ...given,
    path: [],
    selection: [],
    chosenStrand: null,
    past: [],
    future: [],
    gesture: null,
    pin: null,
    picking: null,
    companionStates: new Map(),
    saveState: 'saved',
    saveMessage: '',
    taps: new Map(),
    appearance: null,
    readings: new Map(),
    problem: null,
  });
}

/**
 * Changes the document as one named, undoable step. Changes of one gesture (a drag) make one step.
 */
export function commit(
  label: string,
  change: (document: NetworkDocument, board: BoardId) => NetworkDocument,
  gesture: string | null = null,
): void {
  const state = getState();
  const document = change(state.document, currentBoard());
  if (document === state.document) return;
  const joins = gesture !== null && gesture === state.gesture;
  setState({
    document,
    gesture,
    future: [],
    saveState: state.saveState === 'clash' ? 'clash' : 'unsaved',
    past: joins
      ? state.past
      : [...state.past.slice(1 - HISTORY), { label, document: state.document }],
  });
}
export const endGesture = (): void => {
  setState({ gesture: null });
};

function travel(from: 'past' | 'future', to: 'past' | 'future'): string | null {
  const state = getState();
  const step = state[from].at(-1);
  if (!step) return null;
  setState({
    document: step.document,
    gesture: null,
    [from]: state[from].slice(0, -1),
    [to]: [...state[to], { label: step.label, document: state.document }],
    saveState: state.saveState === 'clash' ? 'clash' : 'unsaved',
    chosenStrand: null,
    path: validPath(step.document, state.path),
  });
  return step.label;
}
export const undo = (): string | null => travel('past', 'future');
export const redo = (): string | null => travel('future', 'past');

function validPath(document: NetworkDocument, path: readonly string[]): readonly string[] {
  const depth = path.findIndex(
    (_, k) =>
      k >= 0 && boardAt(document, path.slice(0, k + 1)) === boardAt(document, path.slice(0, k)),
  );
  return depth < 0 ? path : path.slice(0, depth);
}

export const select = (ids: readonly string[], strand: string | null = null): void => {
  setState({ selection: ids, chosenStrand: strand });
};
export const enterGroup = (nodeId: string): void => {
  setState({ path: [...getState().path, nodeId], selection: [], chosenStrand: null });
};
export const leaveTo = (depth: number): void => {
  setState({ path: getState().path.slice(0, depth), selection: [], chosenStrand: null });
};
/** Pins an output on the stage; pinning it again returns to the surface. */
export const togglePin = (key: string): void => {
  setState({ pin: getState().pin === key ? null : key });
};
export const requestFit = (): void => {
  setState({ fitRequests: getState().fitRequests + 1 });
};
/** Shows a board and brings a card or strand of it into view, chosen. */
export function goTo(
  path: readonly string[],
  { node, strand = null }: { readonly node?: string; readonly strand?: string | null },
): void {
  const selection = node !== undefined && strand === null ? [node] : [];
  setState({
    path,
    selection,
    chosenStrand: strand,
    revealed: node === undefined ? [] : [node],
  });
}
/** The result key of an output of a node on the board shown. */
export const keyOf = (path: readonly NodeId[], node: NodeId, output: PortId): ResultKey =>
  outputKey([...path, node], output);
