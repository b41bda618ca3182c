import { createStore } from 'zustand/vanilla';
import type { StoreApi } from 'zustand/vanilla';
import type { ImageHash, MaterialId, ModelId, NodeId, ResultKey, StrandId } from '../core/base/ids';
import type { Problem } from '../core/base/problem';
import type { ImageReading } from '../core/compile/images';
import type { Camera } from '../core/evaluate/camera';
import type { InfluencePlace } from '../core/evaluate/influence';
import type { ImageFacts } from '../core/evaluate/image-store';
import type { Picture } from '../core/evaluate/picture';
import type { Picked } from '../core/evaluate/pick';
import type { PointedRay } from '../core/evaluate/point-explainer';
import type { TapResult } from '../core/evaluate/tap-results';
import { emptyDocument } from '../core/graph/document';
import type { NetworkDocument, ValueKind } from '../core/graph/document';
import type { Appearance } from '../core/surface/stage-layout';
import type { CardDetail } from './card-detail';
import { emptyFindings } from './findings-state';
import type { FindingsState } from './findings-state';
import type { CompanionState, StageState } from './stage-state';

export interface HistoryStep {
  readonly label: string;
  readonly document: NetworkDocument;
}
/** The open material: its document, how it came to be, and where it is saved. */
export interface DocumentState {
  readonly document: NetworkDocument;
  readonly past: readonly HistoryStep[];
  readonly future: readonly HistoryStep[];
  /** What the last change was part of; a change of the same gesture joins it in the history. */
  readonly gesture: string | null;
  readonly materialId: MaterialId;
  /** The model it is looked at on; saved with it. */
  readonly modelId: ModelId;
  /** The newest saved state that is known. */
  readonly revision: number;
  /** Raised by everything that is to be saved; 0 when a material is opened. */
  readonly edits: number;
}

/**
 * How the stage shows the model: as it is, as lit clay, with small differences made large; a pinned
 * value with its limits marked, or by its sign.
 */
export const STAGE_LOOKS = ['finished', 'clay', 'exaggerated', 'limits', 'signed'] as const;
export type StageLook = (typeof STAGE_LOOKS)[number];
/** The greys that may stand behind the model. */
export const BACKDROPS = {
  usual: 'var(--stage)',
  dark: '#1c1c1c',
  middle: '#767676',
  light: '#dcdcdc',
} as const;
export type Backdrop = keyof typeof BACKDROPS;
/**
 * Something that waits for a click on the model; `take` says in words why the click gave nothing,
 * or null.
 */
export interface Picking {
  readonly asks: string;
  /** The output whose value is taken there; else that of what is shown. */
  readonly reads?: ResultKey;
  readonly take: (picked: Picked) => string | null;
}
/** Something that waits for strokes on the model. */
export interface Stroking {
  readonly asks: string;
  readonly take: (rays: readonly PointedRay[]) => void;
}
/** A part of a board: its zoom, and where its origin is, pixels from the upper left corner. */
export interface BoardView {
  readonly x: number;
  readonly y: number;
  readonly zoom: number;
}
/** A part of one of the boards. */
export interface BoardPlace {
  readonly path: readonly NodeId[];
  readonly view: BoardView;
}
/** What the board may be asked to show: all cards, some of them as large as fits, or a part. */
export type BoardRequest =
  | { readonly show: 'all' }
  | { readonly show: 'cards' | 'near'; readonly ids: readonly NodeId[] }
  | { readonly show: 'view'; readonly view: BoardView };
/** The parts of the editor's window. */
export const PANELS = ['stage', 'board', 'bench', 'front'] as const;
export type PanelName = (typeof PANELS)[number];

/** What a person looks at: the board, what is chosen on it, and the stage. */
export interface ViewState {
  /** Ids of the group nodes that lead from the material's board to the one shown. */
  readonly path: readonly NodeId[];
  readonly selection: readonly string[];
  readonly chosenStrand: StrandId | null;
  /** A result shown on the stage in place of the surface. */
  readonly pin: ResultKey | null;
  readonly look: StageLook;
  /** Whether what is shown lies spread out in texture space. */
  readonly flat: boolean;
  /** How bright the stage is shown, in stops. */
  readonly exposure: number;
  /** Whether the models stand on a ground. */
  readonly ground: boolean;
  /** Whether a grey and a mirror ball stand in a corner of the stage, in the same light. */
  readonly balls: boolean;
  /** The one channel of a pinned vector or colour that is shown, as grey; null for all of them. */
  readonly channel: number | null;
  /** Which panel of the stage is open. */
  readonly stagePanel: 'lights' | 'companions' | 'references' | null;
  readonly backdrop: Backdrop;
  readonly picking: Picking | null;
  readonly stroking: Stroking | null;
  /** A picture of a state, a crop of which stays beside the model. */
  readonly keptSight: { readonly picture: Picture; readonly title: string } | null;
  /** The points whose making is told, as they were pointed at. */
  readonly explained: readonly PointedRay[];
  /** Whether the figures of the chosen node are shown. */
  readonly figures: boolean;
  /** The node for which another is being chosen. */
  readonly exchanging: NodeId | null;
  /** The nodes that the dial pointed at drives. */
  readonly driven: readonly NodeId[];
  /** The beacon that was chosen last; its card may hold others. */
  readonly beacon: string | null;
  readonly camera: Camera | null;
  /** What the board is asked to show; another object asks anew. */
  readonly asked: BoardRequest;
  /** Where the camera of the stage is asked to stand; another object asks anew. */
  readonly askedCamera: Camera | null;
  /** The part of the board that is shown, as it rested last. */
  readonly boardView: BoardView;
  /** Places of boards that were left, the latest last, to go back to; and forward again. */
  readonly placesBehind: readonly BoardPlace[];
  readonly placesAhead: readonly BoardPlace[];
  readonly hidden: ReadonlySet<PanelName>;
  /** Whether cards of the board are being looked for. */
  readonly isFinding: boolean;
  readonly detail: CardDetail;
  /**
   * The cards in view, those nearest its middle first: theirs are the pictures that matter. null
   * until the board has said so.
   */
  readonly inView: readonly NodeId[] | null;
  /** How large pictures of cards are made, pixels. */
  readonly pictureSide: number;
}

export type SaveState =
  'saved' | 'unsaved' | 'saving' | 'offline' | 'clash' | 'signed-out' | 'refused';
export interface SavingState {
  readonly saveState: SaveState;
  readonly saveMessage: string;
}

/** What is known of an image: still coming, read, or why it cannot be. */
export type ImageState =
  | { readonly state: 'loading' }
  | { readonly state: 'ready'; readonly facts: ImageFacts }
  | { readonly state: 'failed'; readonly message: string; readonly at: number };
/** What the workers found of the document as it stands, or stood last. */
export interface ResultState {
  readonly taps: ReadonlyMap<ResultKey, TapResult>;
  readonly kinds: ReadonlyMap<ResultKey, ValueKind>;
  /** Cards of the open board whose pictures are of a state before, and have been for a moment. */
  readonly older: ReadonlySet<NodeId>;
  /** What the finished surface needs of the stage; null until it was evaluated. */
  readonly appearance: Appearance | null;
  readonly images: ReadonlyMap<ImageHash, ImageState>;
  /** How each node's image is read, by its path. */
  readonly readings: ReadonlyMap<string, ImageReading>;
  readonly problem: Problem | null;
}

export interface MapProgress {
  readonly label: string;
  readonly share: number;
}
export interface MeasuringState {
  readonly progress: MapProgress | null;
  /** Whether a person stopped measuring: maps stay as they were seen first. */
  readonly isMeasuringStopped: boolean;
}

/** An input of a node, by the ids that lead to it. */
export interface WatchedInput {
  readonly path: readonly NodeId[];
  readonly input: string;
}
/** A value, a node or a strand that is pointed at, and what it is called. */
export type PointedValue = InfluencePlace & { readonly title: string };
export interface ProbeState {
  readonly watched: WatchedInput | null;
  /** The value whose line is drawn on the model. */
  readonly level: number | null;
  /** The value under the pointer, lane by lane; null beside the model. */
  readonly reading: readonly number[] | null;
  /** What stands on strands while points are explained, by `strandShareKey`. */
  readonly strandWords: ReadonlyMap<string, string>;
  /** The value, node or strand whose region on the model is shown. */
  readonly pointedValue: PointedValue | null;
}

/** All that the editor holds, each in a store of its own. */
export interface Stores {
  readonly document: StoreApi<DocumentState>;
  readonly view: StoreApi<ViewState>;
  readonly saving: StoreApi<SavingState>;
  readonly results: StoreApi<ResultState>;
  readonly stage: StoreApi<StageState>;
  readonly measuring: StoreApi<MeasuringState>;
  readonly findings: StoreApi<FindingsState>;
  readonly probe: StoreApi<ProbeState>;
}

const CLOSED: DocumentState = {
  document: emptyDocument(''),
  past: [],
  future: [],
  gesture: null,
  materialId: '',
  modelId: '',
  revision: 0,
  edits: 0,
};
const VIEW: ViewState = {
  path: [],
  selection: [],
  chosenStrand: null,
  pin: null,
  look: 'finished',
  flat: false,
  exposure: 0,
  ground: true,
  balls: false,
  channel: null,
  stagePanel: null,
  backdrop: 'usual',
  picking: null,
  stroking: null,
  keptSight: null,
  explained: [],
  figures: false,
  exchanging: null,
  driven: [],
  beacon: null,
  camera: null,
  asked: { show: 'all' },
  askedCamera: null,
  boardView: { x: 0, y: 0, zoom: 1 },
  placesBehind: [],
  placesAhead: [],
  hidden: new Set(),
  isFinding: false,
  detail: 'near',
  inView: null,
  pictureSide: 128,
};
const RESULTS: ResultState = {
  older: new Set(),
  taps: new Map(),
  kinds: new Map(),
  appearance: null,
  images: new Map(),
  readings: new Map(),
  problem: null,
};

/** Stores of an editor in which nothing is open. */
export const createStores = (): Stores => ({
  document: createStore(() => CLOSED),
  view: createStore(() => VIEW),
  saving: createStore(() => ({ saveState: 'saved', saveMessage: '' })),
  results: createStore(() => RESULTS),
  stage: createStore(() => ({
    model: null,
    companionStates: new Map<string, CompanionState>(),
    pictureAge: 'current' as const,
    pictureSeconds: 0,
    hasDrawn: false,
  })),
  measuring: createStore(() => ({ progress: null, isMeasuringStopped: false })),
  findings: createStore(() => emptyFindings),
  probe: createStore(() => ({
    watched: null,
    level: null,
    reading: null,
    strandWords: new Map<string, string>(),
    pointedValue: null,
  })),
});

/** Those of the page. */
export const stores = createStores();
