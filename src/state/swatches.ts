import type { ModelId, NodeId, ResultKey } from '../core/base/ids';
import { describeError } from '../core/base/problem';
import { structureKey } from '../core/compile/structure';
import { getNetwork } from '../core/edit/board';
import { boardTaps, cardTaps } from '../core/evaluate/board-taps';
import { squareCamera } from '../core/evaluate/camera';
import type { Camera } from '../core/evaluate/camera';
import type { NestedDemand } from '../core/evaluate/session';
import type { TapResult } from '../core/evaluate/tap-results';
import type { NetworkDocument, NodeInstance } from '../core/graph/document';
import { parseResultKey } from '../core/graph/result-key';
import { isLost, unwrap } from '../workers/answer';
import { boardAt } from '../core/edit/board';
import type { EditorParts } from './editor-parts';
import type { StageImages } from './images';
import { OLD_MS } from './picture-age';
import { reconcileTaps } from './reconcile-taps';
import type { StageModelController } from './stage-model-controller';
import { SwatchLedger } from './swatch-ledger';

type Shown = NonNullable<StageModelController['shown']>;
/** The model whose swatches are wanted, and what is done with what comes of them. */
export interface SwatchTarget {
  readonly shown: () => Shown | null;
  readonly onAppearance: () => void;
  readonly onDemands: (shown: Shown, demands: readonly NestedDemand[]) => void;
}

/** The nodes of some ids, in the order of these. */
function pick(nodes: readonly NodeInstance[], ids: readonly NodeId[]): readonly NodeInstance[] {
  const wanted = new Map(ids.map((id, k) => [id, k]));
  return nodes
    .filter(({ id }) => wanted.has(id))
    .sort((a, b) => (wanted.get(a.id) ?? 0) - (wanted.get(b.id) ?? 0));
}

/** How many cards are done at first, so that the first pictures come soon. */
const AT_FIRST = 24;
/** How many at the most: what lies before several of them is compiled and computed once. */
const AT_MOST = 400;
/** Afterwards as many as have about so many pixels. */
const PIXELS = AT_FIRST * 128 * 128;

/** One round: what is asked, and about which state. */
interface Round {
  readonly shown: Shown;
  readonly camera: Camera;
  readonly document: NetworkDocument;
  /** Of the ledger, when it was begun. */
  readonly generation: number;
  readonly path: readonly NodeId[];
  readonly side: number;
  readonly cards: readonly NodeInstance[];
  readonly isSurface: boolean;
  /** All cards in view that are not up to date. */
  readonly old: readonly NodeId[];
}

/**
 * Keeps the swatches of the open board up to date: of the cards in view, those nearest its middle
 * first, only what an edit can have changed, and as large as they are shown. One round runs at a
 * time, and each is of the newest state, so that no picture is more than one behind.
 */
export class SwatchRequests {
  isBusy = false;
  /** Counters for tests and benchmarks. */
  readonly counts = { evaluations: 0, compilations: 0 };
  private readonly ledger = new SwatchLedger();
  /** The results there can be on the open board. */
  private here: { readonly structure: string; readonly keys: ReadonlySet<ResultKey> } | null = null;
  /** The state whose surface was looked at last. */
  private surfaceOf: NetworkDocument | null = null;

  constructor(
    private readonly parts: EditorParts,
    private readonly images: StageImages,
    private readonly target: SwatchTarget,
  ) {}

  /** Everything changed: the camera, the model, a map, an image, the board. */
  renew(): void {
    this.ledger.renew();
    this.surfaceOf = null;
    this.request();
  }

  /** Another output is pinned: its card's picture and figures are read, too. */
  readPinned(): void {
    const { pin, path } = this.parts.stores.view.getState();
    const { document } = this.parts.stores.document.getState();
    const node = pin === null ? undefined : pinnedOn(document, path, pin);
    this.here = null;
    const isKnown = pin !== null && this.parts.stores.results.getState().taps.has(pin);
    if (node && !isKnown) this.ledger.forget(node.id);
    this.request();
  }

  /** The document changed, or other cards are in view. */
  request(): void {
    if (!this.isBusy) void this.work();
  }

  private async work(): Promise<void> {
    this.isBusy = true;
    try {
      for (let round = this.next(); round; round = this.next())
        if (!(await this.evaluate(round))) break;
    } finally {
      this.showOlder([]);
      this.isBusy = false;
    }
  }

  /** What is to be done next; null when all that is in view is up to date. */
  private next(): Round | null {
    const { document } = this.parts.stores.document.getState();
    const { camera, path, inView, pictureSide: side } = this.parts.stores.view.getState();
    this.images.request(document);
    const shown = this.target.shown();
    if (!shown || !camera) return null;
    const board = boardAt(document, path);
    this.ledger.follow(document, board);
    const { nodes } = getNetwork(document, board);
    const isOld = ({ id }: { readonly id: NodeId }): boolean => !this.ledger.isFresh(id, side);
    const old = (inView ? pick(nodes, inView) : nodes).filter(isOld);
    const isSurface = this.surfaceOf !== document;
    const isFirst = this.parts.stores.results.getState().taps.size === 0;
    const most = isFirst ? AT_FIRST : Math.min(AT_MOST, Math.round(PIXELS / side ** 2));
    if (old.length === 0 && !isSurface) return null;
    return {
      shown,
      camera,
      document,
      generation: this.ledger.generation,
      path,
      side,
      cards: old.slice(0, most),
      // Seen first; what the stage needs of a surface comes with the last of the cards.
      isSurface: isSurface && old.length <= most,
      old: old.map(({ id }) => id),
    };
  }

  /** @returns whether there is any use in going on */
  private async evaluate(round: Round): Promise<boolean> {
    const { stores, clock } = this.parts;
    const stop = clock.after(OLD_MS, () => {
      this.showOlder(round.old);
    });
    try {
      const result = await this.ask(round, round.shown.id);
      this.counts.evaluations++;
      this.counts.compilations = result.compilations;
      const ids = round.cards.map(({ id }) => id);
      const isNewest = this.ledger.made(ids, round.side, round);
      if (isNewest && round.isSurface) this.surfaceOf = round.document;
      stores.results.setState({
        taps: this.merged(result.taps),
        problem: null,
        ...withoutFresh(stores.results.getState().older, ids),
        ...(result.ports ?? {}),
        ...(result.appearance ? { appearance: result.appearance } : {}),
      });
      if (result.appearance) this.target.onAppearance();
      this.target.onDemands(round.shown, result.demands);
      return true;
    } catch (error) {
      // The new worker is asked as soon as it has the model.
      if (!isLost(error)) stores.results.setState({ problem: describeError(error) });
      // What cannot be computed is asked again when something changed.
      const isNewest = round.generation === this.ledger.generation;
      return stores.document.getState().document !== round.document || !isNewest;
    } finally {
      stop();
    }
  }

  /** Marks the cards whose pictures are of a state before. */
  private showOlder(ids: readonly NodeId[]): void {
    const { results } = this.parts.stores;
    if (ids.length === 0 && results.getState().older.size === 0) return;
    results.setState({ older: new Set(ids) });
  }

  private ask({ document, path, cards, camera, side, isSurface }: Round, model: ModelId) {
    const { evaluator, documents } = this.parts.pool;
    const { pin } = this.parts.stores.view.getState();
    const chosen = pin === null ? undefined : pinnedOn(document, path, pin);
    const pinned = pin !== null && chosen && cards.includes(chosen) ? [pin] : [];
    return unwrap(
      evaluator.evaluate({
        model,
        document: documents.bring(evaluator, document),
        path,
        taps: [...new Set([...cards.flatMap((node) => cardTaps(document, path, node)), ...pinned])],
        surface: isSurface,
        camera: squareCamera(camera),
        size: side,
        waiting: this.images.waiting,
      }),
    );
  }

  /** New results over those there are; of nodes that are gone nothing stays. */
  private merged(results: readonly TapResult[]): ReadonlyMap<ResultKey, TapResult> {
    const { document } = this.parts.stores.document.getState();
    const { path, pin } = this.parts.stores.view.getState();
    const structure = `${path.join('/')} ${structureKey(document)}`;
    if (this.here?.structure !== structure)
      this.here = { structure, keys: keysInSight(document, path, pin) };
    return reconcileTaps(this.parts.stores.results.getState().taps, results, this.here.keys);
  }
}

/** The cards that are still marked as older once some are up to date; nothing where none were. */
const withoutFresh = (older: ReadonlySet<NodeId>, fresh: readonly NodeId[]) =>
  older.size === 0 ? {} : { older: new Set([...older].filter((id) => !fresh.includes(id))) };

/** The node of the open board whose output is pinned. */
const pinnedOn = (
  document: NetworkDocument,
  path: readonly NodeId[],
  pin: ResultKey,
): NodeInstance | undefined => {
  const { path: whole, end } = parseResultKey(pin);
  const isHere = end === 'output' && whole.slice(0, -1).join('/') === path.join('/');
  const { nodes } = getNetwork(document, boardAt(document, path));
  return isHere ? nodes.find(({ id }) => id === whole.at(-1)) : undefined;
};

/** The results of the open board, and of the board around it as they were seen last. */
const keysInSight = (
  document: NetworkDocument,
  path: readonly NodeId[],
  pin: ResultKey | null,
): ReadonlySet<ResultKey> => {
  const around = path.length > 0 ? boardTaps(document, path.slice(0, -1)) : [];
  const pinned = pin !== null && pinnedOn(document, path, pin) ? [pin] : [];
  return new Set([...boardTaps(document, path), ...around, ...pinned]);
};
